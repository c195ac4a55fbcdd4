import { tuneOf } from "./src/testing/abc";
import { analyse, strainKeys } from "./src/core/analysis";
import { deriveChords, STYLES } from "./src/core/chords";
const tune=tuneOf("g2b2 d'2b2|c'2a2 g2e2|d2g2 b2g2|g2 f6|g2b2 d'2b2|c'2a2 g2e2|d2e2 f2d2|g8|", { key: "G" });
const a=analyse(tune); const p=deriveChords({places:a.places,phrases:a.form.phrases,keys:strainKeys(tune,a),style:STYLES.find(s=>s.name==="Dance band")});
for(const c of p.chords.filter(c=>c.bar===3)) console.log(c.symbol,c.costs,c.alternatives.slice(0,4));
