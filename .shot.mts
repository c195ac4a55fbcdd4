import { chromium } from "@playwright/test";
const b=await chromium.launch({executablePath:"/usr/bin/chromium",args:["--no-sandbox","--disable-gpu","--disable-quic","--disable-background-networking"]});
const only=process.argv[2]?.split(",");
const p=await b.newPage({viewport:{width:1280,height:800}});
const why=()=>p.getByRole("complementary",{name:"Why"});
const open=async(title:string,lens:string)=>{await p.goto("http://127.0.0.1:3300/");await p.getByRole("link",{name:title}).click();await p.locator("#rows[data-ready]").waitFor();await p.getByRole("navigation",{name:"Lenses"}).getByRole("button",{name:lens}).click();await p.waitForTimeout(1500);};
const shots:Record<string,()=>Promise<void>>={
 "bench-tune":()=>open("The Lamp on the Slip","Tune"),
 "bench-chords":async()=>{await open("Herring at the Quay","Chords");},
 "bench-chord":async()=>{await open("Herring at the Quay","Chords");await p.locator("#rows").getByRole("button").nth(1).click();await p.waitForTimeout(900);},
 "bench-colour":async()=>{await open("The Boat She Came In","Chords");await why().getByText("Colour",{exact:true}).click();await p.waitForTimeout(800);await p.getByLabel("Compare with").selectOption("Dance band");await p.waitForTimeout(1800);},
 "bench-harmony":()=>open("The Lamp on the Slip","Harmony"),
 "bench-hands":async()=>{await open("The Lamp on the Slip","Tune");await why().getByRole("button",{name:"Hands"}).click();await p.waitForTimeout(700);},
 "bench-note":async()=>{await open("The Lamp on the Slip","Tune");await p.keyboard.press("ArrowRight");await p.keyboard.press("Enter");await p.waitForTimeout(900);},
 "bench-parts":()=>open("The Lamp on the Slip","Parts"),
 "bench-narrow":async()=>{await p.setViewportSize({width:600,height:900});await open("Herring at the Quay","Harmony");},
 "chart":async()=>{await p.goto("http://127.0.0.1:3300/tune/9/chart");await p.waitForTimeout(900);},
 "tunes":async()=>{await p.goto("http://127.0.0.1:3300/");await p.waitForTimeout(900);},
};
for(const [n,f] of Object.entries(shots)){ if(only&&!only.includes(n)) continue; try{await p.setViewportSize({width:1280,height:800});await f();await p.screenshot({path:`/tmp/shots/${n}.png`});console.log(n);}catch(e){console.log("failed",n,String(e).slice(0,200));}}
await b.close();
