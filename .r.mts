import { readFileSync } from "node:fs";
import { readAbc } from "./src/core/formats";
import { analyse, strainKeys } from "./src/core/analysis";
import { deriveChords, STYLES } from "./src/core/chords";
const [file,style,n]=[process.argv[2]!,process.argv[3]??"Dance band",Number(process.argv[4]??0)];
const {tune}=readAbc(readFileSync(file,"utf8")).tunes[n]!;
const a=analyse(tune); console.log(tune.title,a.sentence);
const plan=deriveChords({places:a.places,phrases:a.form.phrases,keys:strainKeys(tune,a),style:STYLES.find(s=>s.name===style)!});
for(const c of plan.chords) console.log(a.places[c.bar]!.number, c.symbol, "—", c.reason);
