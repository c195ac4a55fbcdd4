import { readdirSync, readFileSync, statSync } from "node:fs";
import { join } from "node:path";
import { readAbc } from "./src/core/formats";
import { analyse } from "./src/core/analysis";
import { playingOrder, barTicks } from "./src/core/score";
import { BOWINGS, planBowing, planPlectrum } from "./src/core/strokes";
const files: string[] = []; const walk = (d: string) => { for (const f of readdirSync(d)) { const p = join(d,f); if (statSync(p).isDirectory()) walk(p); else if (p.endsWith(".abc")) files.push(p); } };
walk("../shared/corpus");
const tunes = files.flatMap((f) => { try { return readAbc(readFileSync(f,"utf8")).tunes.map(t=>t.tune); } catch { return []; } }).slice(0, Number(process.argv[2] ?? 120));
console.log(files.length, tunes.length);
const bad: Record<string, number> = {}; const ex: Record<string,string> = {};
const note = (k: string, w: string) => { bad[k]=(bad[k]??0)+1; ex[k] ??= w; };
let times: number[] = []; const share: Record<string,[number,number]> = {};
for (const tune of tunes) {
  const { places, form } = analyse(tune);
  const sounding = places.reduce((n,p)=>n+p.bar.events.filter(e=>e.pitches.length).length,0);
  let tied=false, count=0; for (const p of places) for (const e of p.bar.events) { if (e.pitches.length && !tied) count++; tied = e.pitches.length>0 && e.tie===true; }
  const order = playingOrder(places);
  for (const style of [...BOWINGS.map(b=>b.name), "plectrum" as const]) {
    try {
      const t0=performance.now();
      const plan = style==="plectrum" ? planPlectrum({places, style:"Pulse"}) : planBowing({places,style,bpm:110,phraseStarts:new Set(form.phrases.map(p=>p.from))});
      times.push(performance.now()-t0);
      const notes = plan.strokes.flatMap(s=>s.notes);
      if (notes.length!==count) note("cover "+style, tune.title+` ${notes.length} ${count}`);
      if (notes.some((n,i)=>i>0&&n.at<=notes[i-1].at)) note("order "+style, tune.title);
      // playing order adjacency
      const byBar = new Map<number, typeof plan.strokes>();
      for (const s of plan.strokes) { const b=s.notes[0].place.index; byBar.set(b,[...(byBar.get(b)??[]),s]); }
      let last: (typeof plan.strokes)[number] | undefined;
      for (const b of order) for (const s of byBar.get(b)??[]) { if (last && last!==s && last.direction===s.direction && !s.retake) note("retake missing "+style, `${tune.title} bar ${places[b].number}/${places[b].ending}`); last=s; }
      const sh = share[style] ??= [0,0]; sh[0]+=plan.downbeats.down; sh[1]+=plan.downbeats.all;
    } catch (e) { note("throws "+style, tune.title+": "+String(e).slice(0,160)); }
  }
}
times.sort((a,b)=>a-b); console.log("ms median", times[times.length>>1].toFixed(1), "p95", times[Math.floor(times.length*.95)].toFixed(1));
for (const [k,v] of Object.entries(bad)) console.log(v, k, "|", ex[k]);
for (const [k,[d,a]] of Object.entries(share)) console.log(k, (100*d/a).toFixed(1)+"% down");
