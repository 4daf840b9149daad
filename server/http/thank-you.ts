const escape = (text: string): string => text.replace(/[&<>"']/g, (char) => `&#${char.charCodeAt(0)};`);

/** What a visitor sees whose browser posted a plain form, where the intake names no page of its own. */
export function thankYouPage(name: string): string {
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Thank you</title>
<link rel="stylesheet" href="/public.css"></head>
<body><main><h1>Thank you</h1><p>${name === '' ? 'What you sent' : `“${escape(name)}”`} has arrived.</p><p><small>You can close this page.</small></p></main></body></html>`;
}
