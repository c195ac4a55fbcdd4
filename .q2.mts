import { readFileSync } from "node:fs";
import { cutBook } from "./src/core/formats";
import { tidy } from "./src/core/formats/abc/tidy";
import Parse from "abcjs/src/parse/abc_parse.js";
const text=readFileSync("/work/shared/corpus/train/train.abc","utf8"); const t0=performance.now();
for(const c of cutBook(text)){const p=new (Parse as any)(); p.parse(c.text,{},0);} console.log("bare cold",performance.now()-t0);
