import { chromium } from "@playwright/test";
const b=await chromium.launch({executablePath:"/usr/bin/chromium",args:["--no-sandbox","--disable-gpu","--disable-quic","--disable-background-networking"]});
const [what="all",w="1280",h="800"]=process.argv.slice(2);
const p=await b.newPage({viewport:{width:+w,height:+h}});
const open=async(title:string,lens:string)=>{await p.goto("http://127.0.0.1:3300/");await p.getByRole("link",{name:title}).click();await p.locator("#rows[data-ready]").waitFor();await p.getByRole("navigation",{name:"Lenses"}).getByRole("button",{name:lens}).click();await p.waitForTimeout(1500);};
for(const [name,title,lens] of [["tune","The Lamp on the Slip","Tune"],["chords","Herring at the Quay","Chords"],["harmony","The Lamp on the Slip","Harmony"]] as const){ if(what!=="all"&&what!==name) continue; await open(title,lens); if(name==="chords"){await p.locator("#rows").getByRole("button").nth(2).click(); await p.waitForTimeout(700);} await p.screenshot({path:`/tmp/s-${name}-${w}.png`}); }
if(what==="all"||what==="chart"){await p.goto("http://127.0.0.1:3300/tune/3/chart");await p.waitForTimeout(800);await p.screenshot({path:`/tmp/s-chart-${w}.png`});}
await b.close();
