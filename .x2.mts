import { readFileSync } from "node:fs";
import { readAbc } from "./src/core/formats";
import { analyse, strainKeys } from "./src/core/analysis";
import { deriveChords, STYLES } from "./src/core/chords";
import { deriveHarmony, SCHOOLS } from "./src/core/harmony";
import { instrument } from "./src/core/instruments";
import { beatTicks } from "./src/core/score";
const school=SCHOOLS.find(s=>s.name==="Counter-figure")!;
let gaps=0,got=0,inner=0,rests=0,cand=0; 
for(const {tune,index} of readAbc(readFileSync("/work/shared/corpus/train/train.abc","utf8")).tunes){
 const a=analyse(tune); 
 for(const p of a.places){let at=p.at; for(const [i,e] of p.bar.events.entries()){ const b=beatTicks(p.metre); if(e.ticks>=2*b){ cand++; if(at+e.ticks===p.at+p.ticks) gaps++; } at+=e.ticks;}}
 if(!tune) continue;
}
console.log({cand,gaps});
