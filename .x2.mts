import { readFileSync } from "node:fs";
import { readAbc } from "./src/core/formats";
const b = readAbc(readFileSync("/work/shared/corpus/train/train.abc","utf8"));
console.log(b.tunes.length,b.refused.length,b.tunes.filter(t=>Number(t.tune.title.slice(6))!==t.index).slice(0,3).map(t=>[t.index,t.tune.title]));
