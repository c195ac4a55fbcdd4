import fs from "node:fs";
import { readAbc } from "../src/core/formats";
import { analyse } from "../src/core/analysis";
import { deriveChords } from "../src/core/chords";
import { parseChord } from "../src/core/theory";
import W from "../src/core/chords/weights.json";
const r = readAbc(fs.readFileSync("/work/shared/corpus/train/train.abc","utf8"));
const js=fs.readFileSync("/work/shared/corpus/train/train.jsonl","utf8").trim().split("\n").map(l=>JSON.parse(l));
const root=(s:string)=>{const c=parseChord(s)!; return c.sounds[0]+(c.sounds.includes((c.sounds[0]!+3)%12)&&!c.sounds.includes((c.sounds[0]!+4)%12)?"m":"");};
const data=r.tunes.map((t,i)=>({t:t.tune,a:analyse(t.tune),g:js[i].chords.map((c:any)=>({at:c.at,r:root(c.symbol)}))})).filter((_,i)=>i%3===0);
function evalu(){ let ok=0,tot=0; for(const {t,a,g} of data){ const plan=deriveChords({places:a.places,phrases:a.form.phrases,keys:t.strains.map(()=>a.key.key)});
 for(const c of plan.chords){ const p=a.places[c.bar]!; const rr=root(c.symbol); for(let tk=c.at;tk<c.at+c.ticks;tk+=1680){ const at=(p.at+tk)/3360; let x:string|undefined; for(const y of g) if(y.at<=at+1e-6) x=y.r; if(!x) continue; tot++; if(rr===x) ok++; } } } return ok/tot; }
const params:[any,string][]=[]; for(const k of ["noteOutside","noteInside","stress","change","progression"]) for(const s in (W as any)[k]) params.push([(W as any)[k],s]); for(const k of ["seventhUnsounded","sameRoot","opening","ending","phraseEnd"]) params.push([W as any,k]);
let best=evalu(); console.log("start",best);
for(let round=0;round<3;round++) for(const [o,k] of params){ const v=o[k]; for(const nv of (v===0?[0.2,-0.2]:[v*1.5,v*0.65])){ o[k]=nv; const e=evalu(); if(e>best+0.0005){best=e;} else {o[k]=v; continue;} break; } fs.writeFileSync("/tmp/tuned.json",JSON.stringify({best,W},null,1)); }
console.log("end",best);
