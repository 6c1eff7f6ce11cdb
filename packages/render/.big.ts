import { readFileSync, writeFileSync, existsSync } from 'node:fs';
import sharp from 'sharp';
import { addCodecs, bringInAny, checkCopy, derive, recipeOf } from '@inkwell-twin/core';
import { nodeCodecs, pictureEngine, shippedFonts } from './src';
import { poolPicture } from '../demo/src/pool-picture';
addCodecs(nodeCodecs);
const mb=()=>Math.round(process.resourceUsage().maxRSS/1024);
const [what,target,corr]=[process.argv[2],process.argv[3]??'png',process.argv[4]];
const src='/tmp/big.jpg';
if(what==='make'){ const p=poolPicture(2500,2500); await sharp(p.data as Uint8Array,{raw:{width:2500,height:2500,channels:4}}).removeAlpha().resize(20000,20000,{kernel:'cubic'}).jpeg({quality:88}).toFile(src); }
else {
const bytes=readFileSync(src);
let { master, kept } = await bringInAny(bytes, 'pool.jpg', { pictures: pictureEngine });
if(corr) master={...master,boards:master.boards.map(b=>({...b,items:b.items.map(i=>({...i,corrections:[{kind:'levels',black:0.05,white:0.95,gamma:1.1},{kind:'sharpen',radius:2,amount:0.6}]}) as any)}))};
const files=new Map(kept.map(o=>[o.resource.id,o.bytes]));
const means:any={fonts:shippedFonts(),pictures:pictureEngine,resource:(s:string)=>files.get(s)!};
const recipe=recipeOf(target,{});
console.log('start',mb(), bytes.length/1e6);
let t=performance.now();
if(what==='derive'){const d=await derive({master,rev:1,time:'2026-11-20T10:00:00.000Z'},recipe,means);writeFileSync(`/tmp/bigcopy.${target}`,d.files[0]!.bytes);writeFileSync(`/tmp/bigcopy.${target}.says`,d.says);console.log(d.defects.length,d.files[0]!.bytes.length/1e6)}
else {const f=[{part:'',bytes:readFileSync(`/tmp/bigcopy.${target}`)}] as any;const c=await checkCopy({files:f,whole:false,says:readFileSync(`/tmp/bigcopy.${target}.says`,'utf8'),recipe,now:{...master},then:master} as any,means,true);console.log(c.verdict)}
console.log(what,target,corr??'','ms',Math.round(performance.now()-t),'MB',mb());
}
