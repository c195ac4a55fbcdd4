import { readFileSync } from "node:fs";
import { readAbc } from "./src/core/formats";
import { analyse, strainKeys } from "./src/core/analysis";
import { deriveChords, STYLES } from "./src/core/chords";
import { chord, semitoneOf, parseChord } from "./src/core/theory";
import { beatTicks, QUARTER } from "./src/core/score";
const truth = new Map(readFileSync("/work/shared/corpus/train/train.jsonl","utf8").trim().split("\n").map(l=>JSON.parse(l)).map(t=>[t.x??t.index,t]));
const tunes = readAbc(readFileSync("/work/shared/corpus/train/train.abc","utf8")).tunes;
const rt=(s:string)=>{const c=parseChord(s); if(!c) return "?"; const r=semitoneOf(c.root); const m=c.classes.includes((r+3)%12)&&!c.classes.includes((r+4)%12); return r+(m?"m":"");};
const names=(process.argv[2]??"Dance band").split(",");
const from=Number(process.argv[3]??0), step=Number(process.argv[4]??1);
for(const name of names){
 let ok=0,three=0,all=0; const t0=performance.now();
 for(const [i,{tune,index}] of tunes.entries()){ if(i%step!==from) continue;
  const t:any=truth.get(Number(tune.title.slice(6))); if(!t) continue;
  const a=analyse(tune); const plan=deriveChords({places:a.places,phrases:a.form.phrases,keys:strainKeys(tune,a),style:STYLES.find(s=>s.name===name)!});
  const spans=plan.chords.map(c=>({from:a.places[c.bar]!.at+c.at,to:a.places[c.bar]!.at+c.at+c.ticks,names:[c.symbol],alts:c.alternatives}));
  const list=t.chords as any[];
  for(const c of list.entries()){ const [k,ch]=c as any; const s=ch.at*QUARTER; const e=(list[k+1]?.at??t.length)*QUARTER;
   for(let at=s;at<e-1;at+=QUARTER/2){ const sp=spans.find(x=>x.from<=at&&at<x.to); if(!sp) continue; all++; const want=rt(ch.chord??ch.symbol);
    if(rt(sp.names[0]!)===want) ok++; else if(all<0) console.log(index,at/QUARTER,sp.names[0],ch.symbol,rt(sp.names[0]!),want);
    const seen=new Set([rt(sp.names[0]!)]); let hit=seen.has(want); for(const al of sp.alts){ if(seen.size>=3) break; if(al.at!==undefined){const b=spans.indexOf(sp); const base=a.places[plan.chords[b]!.bar]!.at+al.at; if(at<base||at>=base+al.ticks!) continue;} seen.add(rt(al.symbol)); if(seen.has(want)) hit=true;}
    if(hit) three++; } } }
 console.log(name, (100*ok/all).toFixed(2), (100*three/all).toFixed(2), all, Math.round(performance.now()-t0));
}
