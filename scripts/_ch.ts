import fs from "node:fs";
import { readAbc } from "../src/core/formats";
import { analyse } from "../src/core/analysis";
import { deriveChords } from "../src/core/chords";
import { parseChord } from "../src/core/theory";
const r = readAbc(fs.readFileSync("/work/shared/corpus/train/train.abc","utf8"));
const js=fs.readFileSync("/work/shared/corpus/train/train.jsonl","utf8").trim().split("\n").map(l=>JSON.parse(l));
const root=(s:string)=>{const c=parseChord(s)!; return c.sounds[0]+(c.sounds.includes((c.sounds[0]!+3)%12)&&!c.sounds.includes((c.sounds[0]!+4)%12)?"m":"");};
let ok=0,tot=0,top3=0; const by:Record<string,[number,number]>={}; const t0=performance.now();
r.tunes.forEach((t,i)=>{ const a=analyse(t.tune); const plan=deriveChords({places:a.places,phrases:a.form.phrases,keys:t.tune.strains.map(()=>a.key.key)});
 for(const c of plan.chords){ const p=a.places[c.bar]!; for(let tk=c.at;tk<c.at+c.ticks;tk+=840){ const at=(p.at+tk)/3360; let g:string|undefined; for(const x of js[i].chords) if(x.at<=at+1e-6) g=x.symbol; if(!g) continue; tot++; const m=by[t.tune.key.mode]??=[0,0]; m[1]++; if(root(c.symbol)===root(g)){ok++;m[0]++;} if([c.symbol,...c.alternatives.map(x=>x.symbol)].map(root).filter((x,i,l)=>l.indexOf(x)===i).slice(0,3).includes(root(g))) top3++; } }
 if(i<3) console.log(t.tune.title,a.sentence, plan.vocabulary, plan.chords.slice(0,6).map(c=>`${c.bar}:${c.symbol} ${c.reason} [${c.alternatives.slice(0,3).map(x=>x.symbol+x.cost.toFixed(2))}]`).join("\n"));
});
console.log(ok/tot, top3/tot, Object.fromEntries(Object.entries(by).map(([k,v])=>[k,v[0]/v[1]])), (performance.now()-t0)/594);
