import fs from "node:fs";
import { readAbc } from "../src/core/formats";
import { analyse, rankKeys } from "../src/core/analysis";
import { deriveChords } from "../src/core/chords";
import { deriveHarmony } from "../src/core/harmony";
const r = readAbc(fs.readFileSync("/work/shared/corpus/train/train.abc","utf8"));
const T:any={an:0,ch:0,ha:0,rk:0}; let clash=0, rests=0,n=0;
for(let k=0;k<2;k++) for(const t of r.tunes){ let s=performance.now(); const a=analyse(t.tune); T.an+=performance.now()-s; s=performance.now(); rankKeys(a.places); T.rk+=performance.now()-s; s=performance.now(); const plan=deriveChords({places:a.places,phrases:a.form.phrases,keys:t.tune.strains.map(()=>a.key.key)}); T.ch+=performance.now()-s; s=performance.now(); const h=deriveHarmony({places:a.places,plan,phraseEnds:new Set(a.form.phrases.map(p=>p.to))}); T.ha+=performance.now()-s; clash+=h.clash; n+=h.notes.filter(x=>x.melody).length; rests+=h.notes.filter(x=>x.melody&&!x.pitch).length; if(k==0&&t.index===2) console.log(h.notes.slice(0,30).map(x=>`${x.melody?.step}${x.melody?.octave}>${x.pitch?.step}${x.pitch?.octave}(${x.interval},${x.chord}) ${x.reason}`).join("\n")); }
console.log(T, clash/n, rests/n);
