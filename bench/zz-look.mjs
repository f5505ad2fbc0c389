import { chromium } from 'playwright-core';
import { signIn } from '../ops/sign-in.mjs';
const url='http://127.0.0.1:4310';
const b = await chromium.launch({executablePath:'/usr/bin/chromium', args:['--no-sandbox','--disable-gpu','--disable-quic']});
const page = async (who) => { const {cookie,send}=await signIn(url, who); const p=await b.newPage({viewport:{width:1280,height:800}}); await p.context().addCookies([cookie]); return {p,send}; };
const {p,send}=await page('runa@millrace.example.org');
const {jobs}=await send('GET','/jobs');
const all=jobs.flatMap(j=>j.signs.map(s=>({...s,job:j})));
console.log(all.map(s=>s.title+': '+JSON.stringify(s.proof)).join('\n'));
const what=process.argv[2];
if (what==='job') { await p.goto(url+'/jobs'); await p.getByRole('button',{name:'New job'}).click(); await p.getByLabel('Customer',{exact:true}).fill('Fernhollow Arboretum'); await p.getByLabel('What is wanted').fill('Heron pond plaque'); await p.getByRole('button',{name:'Make the job'}).click(); await p.locator('.card-job',{hasText:'Heron pond plaque'}).waitFor(); await p.waitForTimeout(3000); await p.screenshot({path:'/tmp/look-job.png'}); }
if (what==='maker') { const m=await page('piet@millrace.example.org'); const s=all.find(s=>/West gate/.test(s.title)); await m.p.goto(url+'/signs/'+s.id); await m.p.locator('pr-plan-view path.edge').waitFor({state:'attached'}); await m.p.waitForTimeout(2500); await m.p.locator('pr-ticket-text button').nth(1).click(); await m.p.waitForTimeout(500); await m.p.screenshot({path:'/tmp/look-maker.png'}); }
if (what==='pins') { for (const s of all) { const {proofs}=await send('GET',`/jobs/${s.job.id}/proofs`); const withPins=proofs.filter(x=>x.remarks.some(r=>r.signId===s.id&&r.across!==null)); if (withPins.length) console.log(s.title, withPins.map(x=>x.letter+' '+x.state)); } }
if (what==='sign') { const s=all.find(s=>s.title.includes(process.argv[3])); await p.goto(url+'/signs/'+s.id); await p.locator('pr-plan-view path.edge').waitFor({state:'attached'}); await p.waitForTimeout(3000); if (process.argv[4]) { const r=await p.locator(process.argv[4]).first(); await r.click(); await p.waitForTimeout(800);} await p.screenshot({path:'/tmp/look-sign.png'}); }
if (what==='proof') { for (const j of jobs) { const {proofs}=await send('GET',`/jobs/${j.id}/proofs`); const x=proofs.find(x=>x.letter>'A'&&x.address&&['open','approved','changes asked'].includes(x.state)); if (x) { console.log(j.title,x.letter,x.state,x.address); await p.goto(x.address.replace(/^https?:\/\/[^/]+/,url)); await p.waitForTimeout(4000); await p.screenshot({path:'/tmp/look-proof.png'}); break; } } }
await b.close();
