document.title = "Zusammen";
