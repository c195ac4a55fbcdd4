import { readFileSync } from "node:fs";
import { readAbc,cutBook,readAbcTune } from "./src/core/formats";
import { analyse } from "./src/core/analysis";
const text=readFileSync("/work/shared/corpus/train/train.abc","utf8");
const cuts=cutBook(text); const tunes=cuts.map(c=>readAbcTune(c).tune);
for(let k=0;k<6;k++) for(const t of tunes) analyse(t);
