import { chromium } from '@playwright/test';
const [,, who='priya', path='/today', out='/tmp/p1.png', ...acts] = process.argv;
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args:['--no-sandbox'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
p.on('console', m => { if (m.type()==='error') console.log('console:', m.text().slice(0,300)); });
p.on('pageerror', e => console.log('pageerror:', e.message));
await p.goto('http://127.0.0.1:4702/sign-in');
await p.fill('input[type=email]', `${who}@hollin-marsh.example`); await p.fill('input[type=password]', 'glasshouse');
await p.keyboard.press('Enter'); await p.waitForURL(u => !u.pathname.includes('sign-in'));
await p.goto('http://127.0.0.1:4702'+path); await p.waitForTimeout(1500);
for (const a of acts) { await new Function('p', `return (async()=>{${a}})()`)(p); await p.waitForTimeout(700); }
await p.screenshot({ path: out }); await b.close();
