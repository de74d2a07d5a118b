import { answerAll, beginNext, beginOn, desk, goOn, openDemo, phone, signedIn } from './browser.mjs';
const demo = await openDemo();
const shot = (page, name, o = {}) => page.screenshot({ path: `/tmp/shots/${name}.png`, ...o });
const fold = async (page, name) => console.log(name, await page.evaluate(() => { const f = innerHeight; return { title: document.querySelector('#now-title')?.textContent, answersEnd: Math.max(0, ...[...document.querySelectorAll('.answers .sight')].filter(e => e.checkVisibility()).map(e => Math.round(e.getBoundingClientRect().bottom))), go: Math.round(document.querySelector('.go .btn-go')?.getBoundingClientRect().bottom ?? 0), slate: Math.round([...document.querySelectorAll('.slate .btn-go')].filter(e => e.checkVisibility()).pop()?.getBoundingClientRect().bottom ?? 0), strip: Math.round(document.querySelector('.stage-name').checkVisibility() ? document.querySelector('.stage-name').getBoundingClientRect().bottom : document.querySelector('.strip').getBoundingClientRect().bottom), rig: Math.round(document.querySelector('.rig-view svg')?.getBoundingClientRect().bottom ?? 0), cut: [...document.querySelectorAll('.strip li, .strip span')].filter(e => e.scrollWidth > e.clientWidth + 1 && e.checkVisibility()).length }; }));
try {
  const page = await signedIn(demo, /Ines Tarrow/, desk);
  const hand = await signedIn(demo, /Ines Tarrow/, { ...phone, deviceScaleFactor: 1 });
  await beginOn(page, 'RP');
  await answerAll(page);
  await page.getByRole('button', { name: /All as listed/ }).click();
  const numbers = { 'apparent reading': '7.4', 'first drip': '2.6', 'read CV1': '7.2' };
  for (let i = 0; i < 30; i++) {
    await page.waitForTimeout(350);
    await page.evaluate(() => scrollTo(0, 0)); await page.mouse.move(5, 5);
    const now = await page.locator('#now-title').textContent();
    if (now === 'Close up' || page.url().endsWith('verdict')) break;
    await fold(page, 'desk');
    if (/first drip|bypass control fully/.test(now)) await shot(page, `d-${i}`);
    if (/first drip|bypass control fully|Flush/.test(now)) { await hand.goto(page.url()); await hand.waitForTimeout(500); await fold(hand, 'phone'); await shot(hand, `p-${i}`); }
    const [name, number] = Object.entries(numbers).find(([asked]) => now.includes(asked)) ?? [];
    if (number) { await page.keyboard.type(number); delete numbers[name]; }
    await page.keyboard.press('Enter');
  }
} finally { await demo.close(); }
