import { readAbc, tuneAbc } from "/work/main/src/core/formats";
import fs from "node:fs";
const text = fs.readFileSync(process.argv[2]!, "utf8");
console.time("read"); const r = readAbc(text); console.timeEnd("read");
console.log(r.tunes.length, r.refused.map(x=>[x.index,x.error.spot,x.error.message]));
let bad=0; const kinds: Record<string,number>={};
for (const t of r.tunes) { for (const k of t.remarks) { const m=k.message.replace(/".*?"/,'""'); kinds[m]=(kinds[m]??0)+1; }
  const w = tuneAbc(t.tune); const b = readAbc(w);
  if (JSON.stringify(b.tunes[0]?.tune)!==JSON.stringify(t.tune)) { if(bad++<3) { console.log(t.index, t.tune.title); const x=JSON.stringify(t.tune), y=JSON.stringify(b.tunes[0]?.tune)??""; let i=0; while(x[i]===y[i]) i++; console.log(x.slice(i-150,i+120)); console.log(y.slice(i-150,i+120)); console.log(w.slice(0,500)); } } }
for (const t of r.tunes.slice(0)) for (const k of t.remarks) if (!/decor/.test(k.message)) console.log(t.index,k.line,k.column,k.message, text.split("\n")[k.line-1]!.slice(Math.max(0,k.column-15),k.column+10), "HERE:", text.split("\n")[k.line-1]![k.column-1]);
console.log("roundtrip bad", bad, kinds);
