import { readAbc, tuneAbc } from "./src/core/formats";
const show=(t:string)=>{const b=readAbc(t); for(const x of b.tunes) console.log(JSON.stringify(t.slice(-60)),"=>",x.tune.strains.map(s=>s.bars.map(b=>b.events.map(e=>e.pitches.map(p=>p.step+p.alter+p.octave).join("+")+":"+e.ticks/1680).join(" ")).join(" | ")).join(" || "), x.remarks.map(r=>r.message??JSON.stringify(r))); for(const r of b.refused) console.log("refused",r.error.message)};
const H="X:1\nT:T\nM:4/4\nL:1/8\nK:D\n";
show(H+"d2z2 A2z2|\nkd2z vkA2z | vBAG D2z |\n");
show(H+"kd2z vkA2z | vBAG D2z |\n");
show(H+"[D2A2][\nGB] d2 [FA]2 e4 | d8 |\n");
show(H+"d4 [FA\nd]4 | d8 |\n");
show(H+"These are words about a fox\nd8|A8|\n");
show(H+"d2ef jg2a2 | b4 a4 |\nqd2 ef ga | d8 |\n");
