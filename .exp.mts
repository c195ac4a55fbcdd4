import { readFileSync, writeFileSync } from "node:fs";
import { EVIDENCE, gather } from "./src/core/analysis/evidence";
import { readAbc } from "./src/core/formats";
import { places } from "./src/core/score";
import { semitoneOf } from "./src/core/theory";
const keys = new Map(readFileSync("/work/shared/corpus/train/keys.jsonl","utf8").trim().split("\n").map(l=>JSON.parse(l)).map(k=>[k.x,k]));
const rows = readAbc(readFileSync("/work/shared/corpus/train/train.abc","utf8")).tunes.map(({tune,index})=>{ const k=keys.get(index); if(k.printed[0]!==tune.key.tonic||k.printed[1]!==tune.key.mode) console.log("odd",index,k.printed,tune.key); const e=gather(places(tune)); return {x:index,tonic:semitoneOf(k.tonic),mode:k.mode,also:k.also.map((a:any)=>[semitoneOf(a[0]),a[1]]),printed:[semitoneOf(k.printed[0]),k.printed[1]],e:EVIDENCE.map(n=>e[n])};});
writeFileSync("/tmp/keys.json",JSON.stringify({names:EVIDENCE,rows}));
console.log(rows.length);
