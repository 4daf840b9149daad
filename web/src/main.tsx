document.title = 'Zusammen';
