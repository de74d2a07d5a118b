import { openDemo, signedIn, phone, desk, goOn, beginOn } from './browser.mjs';
const demo = await openDemo();
let n=0; 
try {
  const page = await signedIn(demo, /Ines Tarrow/, phone);
  const shot = async (name) => { await page.screenshot({path:`/tmp/s-${name}.png`}); };
  await beginOn(page, 'RP');
  await page.getByRole('button', { name: /All as listed/ }).tap();
  await goOn(page, 'Close up', undefined, { 'apparent': '7.6', 'first drip': '2.3', 'read CV1': '5.0' });
  await page.getByRole('button', { name: /All as listed/ }).tap();
  await page.waitForURL(/verdict/);
  console.log(await page.locator('h1.verdict').textContent());
  await page.locator('#pace').fill('A program typed this, faster than water.');
  await page.getByLabel(/my typed name is my signature/).check();
  await page.getByRole('button', { name: 'Sign and seal' }).tap();
  await page.waitForURL(/reports/);
  await page.getByRole('button', { name: 'Repair it' }).tap();
  await page.waitForURL(/repairs/);
  await shot('prepare');
  const seen=[];
  let last='';
  for (let i=0;i<60;i++){
    const t=(await page.locator('#step-title').textContent()).trim(); seen.push(t);
    if (t===last) { await page.screenshot({path:'/tmp/s-stuck.png',fullPage:true}); console.log('stuck at', t, await page.locator('.error, [role=alert]').allTextContents()); break; } last=t;
    if (/What is opened/.test(t)) { await shot('choose'); await page.locator('.choices button').first().tap(); }
    else if (/until when/.test(t)) { await shot('stopgap'); await page.locator('.step .btn-go:visible').tap(); }
    else if (/What is done/.test(t)) { await shot('do-'+i); await page.getByRole('button',{name: /disc|CV1/i.test(t)? /Turned|Replaced/ : /Cleaned/}).first().tap(); }
    else if (/Look at/.test(t)) { await shot('look-'+i); if (/disc|CV1/.test(t)) { await page.locator('.at-hand:visible .chip').first().tap(); await page.locator('.at-hand:visible .chip').nth(1).tap(); await shot('found'); } await page.locator('.at-hand:visible .btn-go').tap(); }
    else if (/Close up, or/.test(t)) { await shot('closeup'); await page.locator('.step .btn-go').first().tap(); }
    else if (/Test it from/.test(t)) { await page.screenshot({path:'/tmp/s-retest.png', fullPage:true}); break; }
    else { if (i===7) await shot('open'); await page.locator('.at-hand:visible .btn-go').tap(); }
    await page.waitForFunction(w=>document.querySelector('#step-title')?.textContent.trim()!==w, t, {timeout:4000}).catch(()=>{});
  }
  
  const buf = Buffer.from(await page.evaluate(async()=>{const c=document.createElement('canvas');[c.width,c.height]=[2000,1500];const p=c.getContext('2d');for(let i=0;i<12;i++){p.fillStyle=`hsl(${i*30} 40% 60%)`;p.fillRect(i*160,40,150,1400);}const b=await new Promise(d=>c.toBlob(d,'image/jpeg',0.9));return [...new Uint8Array(await b.arrayBuffer())];}));
  await page.locator('#photo').setInputFiles({name:'a.jpg',mimeType:'image/jpeg',buffer:buf});
  await page.locator('.photos img').first().waitFor();
  await page.screenshot({path:'/tmp/s-retest.png', fullPage:true});
  await page.getByRole('button',{name:'Begin the test'}).tap();
  await page.waitForURL(/runs/);
  await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
  await page.getByRole('button', { name: /All as listed/ }).tap();
  await goOn(page, 'Close up', undefined, { 'apparent': '7.6', 'first drip': '2.3', 'read CV1': '7.4' });
  await page.getByRole('button', { name: /All as listed/ }).tap();
  await page.waitForURL(/verdict/);
  await page.locator('#pace').fill('A program typed this, faster than water.');
  await page.getByLabel(/my typed name is my signature/).check();
  await page.getByRole('button', { name: 'Sign and seal' }).tap();
  await page.waitForURL(/reports/);
  await page.screenshot({path:'/tmp/s-report.png', fullPage:true});
  const pdf = await page.request.get(page.url()+'/pdf'); (await import('node:fs')).writeFileSync('/tmp/r.pdf', await pdf.body());
  await page.setViewportSize({width:1280,height:800});
  await page.screenshot({path:'/tmp/s-report-desk.png', fullPage:true});
  await page.getByRole('link',{name:/passport/}).first().click();
  await page.screenshot({path:'/tmp/s-passport.png', fullPage:true});
  await page.goto(demo.url); await page.screenshot({path:'/tmp/s-today.png', fullPage:true});
  await page.goto(demo.url+'/repairs'); await page.screenshot({path:'/tmp/s-repairs.png', fullPage:true});

} catch(e) { console.log(e.message); } finally { await demo.close(); }
