import { tuneOf } from "./src/testing/abc";
import { places } from "./src/core/score";
import { BOWINGS, planBowing } from "./src/core/strokes";
const t = tuneOf("|:A2|d2fd Adfd|e2ge Bege|d2fd Adfa|gfed B2A2|d2fd Adfd|e2ge Bege|faaf gbag|fdec d2:||:fg|a2fa dafa|b2gb egbg|a2fa dafa|gfed cdeg|a2fa dafa|b2gb egbg|faaf gedc|d2f2 d2:|",{key:"D"});
const from = places(t);
const run = (style: never) => planBowing({places:from,style,bpm:120,phraseStarts:new Set([0])});
for (let k=0;k<30;k++) for (const b of BOWINGS) run(b.name as never);
for (const {name} of BOWINGS) { const a=performance.now(); for (let k=0;k<20;k++) run(name as never); console.log(name, ((performance.now()-a)/20).toFixed(1)+"ms"); }
