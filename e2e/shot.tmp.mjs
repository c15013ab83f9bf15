import { chromium } from "@playwright/test";
const [,, path, out, size = "1280x800", theme = "daylight", ...acts] = process.argv;
const [width, height] = size.split("x").map(Number);
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--disable-quic","--disable-background-networking","--disable-component-update","--no-first-run"] });
const p = await b.newPage({ viewport: { width, height }, deviceScaleFactor: 1 });
p.on("console", m => { if (["error","warning"].includes(m.type())) console.log("console:", m.text()); });
p.on("pageerror", e => console.log("pageerror:", e.message));
await p.addInitScript(t => localStorage.setItem("elkstay.theme", t), theme);
await p.goto("http://127.0.0.1:8420" + path);
await p.waitForTimeout(1200);
for (const a of acts) { await eval(`(async()=>{${a}})()`); await p.waitForTimeout(500); }
await p.screenshot({ path: out });
await b.close();
