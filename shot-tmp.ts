import { chromium } from 'playwright';
const [, , path = '/', out = '/tmp/shot.png', ...acts] = process.argv;
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (e) => console.log('PAGE ERROR', e.message));
page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text().slice(0, 300)));
await page.goto('http://localhost:4600/sign-in');
await page.getByLabel('E-mail').fill('mara@cloverhollow.example');
await page.getByLabel('Password').fill('clover-hollow');
await page.getByRole('button', { name: /sign in/i }).click();
await page.waitForURL((u) => !u.pathname.includes('sign-in'));
if (path.startsWith('pairing:')) {
  const list = await (await page.request.get('http://localhost:4600/api/pairings')).json();
  const found = list.pairings.find((p: any) => p.name.startsWith(path.slice(8)));
  console.log(JSON.stringify(found));
  await page.goto(`http://localhost:4600/pairings/${found.id}`);
} else await page.goto(`http://localhost:4600${path}`);
await page.waitForTimeout(3500);
for (const act of acts) { await (new Function('page', `return (async () => { ${act} })()`))(page); await page.waitForTimeout(1500); }
await page.screenshot({ path: out });
await browser.close();
