import { tuneOf } from "./src/testing/abc";
import { places } from "./src/core/score";
import { BOWINGS, planBowing } from "./src/core/strokes";
const t = tuneOf("|:A2|d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2|d2fd Adfd|e2ge Bege|faaf gbag|fdec d2:||:fg|a2fa dafa|b2gb egbg|a2fa dafa|gfed cdeg|a2fa dafa|b2gb egbg|faaf gedc|d2f2 d2:|",{key:"D"});
const from = places(t);
for (const {name} of BOWINGS) { for (let k=0;k<3;k++) planBowing({places:from,style:name,bpm:120,phraseStarts:new Set([0])}); const a=performance.now(); const p = planBowing({places:from,style:name,bpm:120,phraseStarts:new Set([0])}); console.log(name, (performance.now()-a).toFixed(1)+"ms", p.total.toFixed(2), p.strokes.length, p.downbeats, p.strokes.filter(s=>s.retake).length); }
// exactness
const base = planBowing({places:from,style:"Shuffle",bpm:120,phraseStarts:new Set([0])});
let bad=0,n=0; for (const s of base.strokes.slice(0,40)) for (const a of s.alternatives) { const f=s.notes[0]; const ticks=s.notes.reduce((x,m)=>x+m.ticks,0); const p=planBowing({places:from,style:"Shuffle",bpm:120,phraseStarts:new Set([0]),locks:[{bar:f.place.index,at:f.at-f.place.at,ticks,direction:a.direction}]}); n++; if (Math.abs(p.total-base.total-a.cost)>1e-6) {bad++; if(bad<5) console.log("inexact",f.place.number,f.into/1680,a, p.total-base.total);} }
console.log("exact",n-bad,"of",n);
