import { openDemo, signedIn, phone, desk, goOn, beginOn, violations } from './browser.mjs';
const demo = await openDemo();
try {
  const page = await signedIn(demo, /Ines Tarrow/, phone);
  await page.goto(demo.url); await page.screenshot({path:'/tmp/s-today.png', fullPage:true});
  const d = await signedIn(demo, /Wilma/, desk);
  const axe = async p => { const v = await violations(p); if (v.length) console.log(p.url(), v.map(x=>x.id+': '+x.nodes.map(n=>n.target+' '+n.failureSummary.split('\n')[1]).join(' / ')).join('\n')); };
  await d.goto(demo.url+'/'); await axe(d); await d.screenshot({path:'/tmp/s-office.png', fullPage:true});
  await d.goto(demo.url+'/repairs'); await axe(d); await d.screenshot({path:'/tmp/s-repairs.png', fullPage:true});
  await d.goto(demo.url+'/parts'); await axe(d); await d.screenshot({path:'/tmp/s-parts.png'});
  await d.goto(demo.url+'/repairs');
  const href = await d.locator('.jobs a').first().getAttribute('href');
  await d.goto(demo.url+href); await axe(d); await d.screenshot({path:'/tmp/s-job.png', fullPage:true});
  await d.goto(demo.url+href+'/costs'); await axe(d); await d.screenshot({path:'/tmp/s-costs.png', fullPage:true});
  const late = await d.goto(demo.url+'/repairs').then(()=>d.locator('section').nth(1).locator('.jobs a').first().getAttribute('href'));
  await d.goto(demo.url+late); await axe(d);
  const pass = await d.locator('.crumb a').nth(1).getAttribute('href');
  await d.goto(demo.url+pass); await axe(d); await d.screenshot({path:'/tmp/s-passport.png', fullPage:true});
  const rep = await d.locator('.past a').first().getAttribute('href');
  await d.goto(demo.url+rep); await axe(d); await d.screenshot({path:'/tmp/s-report.png', fullPage:true});
  const pdf = await d.request.get(d.url()+'/pdf'); (await import('node:fs')).writeFileSync('/tmp/r.pdf', await pdf.body());
} catch(e) { console.log(e.message); } finally { await demo.close(); }
