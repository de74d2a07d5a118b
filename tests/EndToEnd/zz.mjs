import { desk, openDemo, phone, signedIn } from './browser.mjs';
const demo = await openDemo();
try {
  const page = await signedIn(demo, /Wilma Quent/, desk);
  const shot = (name, o = {}) => page.screenshot({ path: `/tmp/shots/${name}.png`, ...o });
  const go = async (u, n, o) => {
    const r = await page.goto(`${demo.url}${u}`);
    console.log(u, r.status());
    await page.waitForTimeout(200);
    await shot(n, o);
  };
  await go('/due', 'due');
  await go('/register', 'register');
  await go('/register/map', 'map');
  await go('/imports', 'imports');
  const href = await page.evaluate(() => document.querySelector('.imports a')?.getAttribute('href'));
  console.log(href);
  if (href) {
    await go(href, 'import', { fullPage: true });
    await go(`${href}?columns=again`, 'columns', { fullPage: true });
  }
  await go('/register/twice', 'twice');
  await go('/exports', 'exports');
  await page.goto(`${demo.url}/register`);
  const one = await page.evaluate(() =>
    document.querySelector('.register a[href^="/register/0"], .register td a')?.getAttribute('href'),
  );
  console.log(one);
  await go(one, 'passport', { fullPage: true });
  await go(`${one}/edit`, 'edit', { fullPage: true });
} finally {
  console.log(demo.said?.().slice(-1500));
  await demo.close();
}
