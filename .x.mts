import { readFileSync } from "node:fs";
import { readAbc } from "./src/core/formats";
import { analyse, strainKeys } from "./src/core/analysis";
import { deriveChords, STYLES } from "./src/core/chords";
import { deriveHarmony, SCHOOLS } from "./src/core/harmony";
import { instrument } from "./src/core/instruments";
import { pitchName } from "./src/core/theory";
const school=SCHOOLS.find(s=>s.name==="High line")!;
let shown=0;const count:any={};
for(const {tune,index} of readAbc(readFileSync("/work/shared/corpus/train/train.abc","utf8")).tunes.slice(0,200)){
 const a=analyse(tune); const plan=deriveChords({places:a.places,phrases:a.form.phrases,keys:strainKeys(tune,a),style:STYLES.find(s=>s.name==="Dance band")});
 const line=deriveHarmony({places:a.places,plan,phraseEnds:new Set(a.form.phrases.map(p=>p.to)),school,side:"above",instrument:instrument("fiddle")!});
 line.notes.forEach((n,i)=>{ if(!n.pitch&&n.melody){ const k=pitchName(n.melody); count[k]=(count[k]??0)+1; if(shown++<400&&n.ticks<1700&&shown%12==0) console.log(index,n.bar,n.reason, line.notes.slice(i-3,i+4).map(m=>(m.melody?pitchName(m.melody):"-")+"/"+(m.pitch?pitchName(m.pitch):"z")+":"+m.ticks/3360).join(" "),n.chord, n.alternatives.map(x=>(x.pitch?pitchName(x.pitch):"z")+x.cost.toFixed(1)).join(" "));}});
}
console.log(count, instrument("fiddle")!.highest);
