import { chromium } from "@playwright/test";
const [path, out, size = "1280x800", theme = "daylight", ...acts] = process.argv.slice(2);
const [w, h] = size.split("x").map(Number);
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--disable-quic","--disable-background-networking","--no-first-run"] });
const c = await b.newContext({ viewport: { width: w, height: h }, serviceWorkers: "block" });
const p = await c.newPage();
p.on("console", m => m.type()==="error" && console.log("console:", m.text()));
p.on("pageerror", e => console.log("pageerror:", e.message));
await p.addInitScript(t => { try { localStorage.setItem("elkstay.theme", t); } catch {} }, theme);
await p.goto("http://127.0.0.1:8420" + path);
await p.waitForLoadState("networkidle").catch(()=>{});
for (const a of acts) {
  const i = a.indexOf(":"), k = a.slice(0, i), v = a.slice(i + 1);
  try {
  if (k === "css") await p.locator(v).first().click({timeout:5000});
  else if (k === "click") await p.getByText(v, { exact: false }).first().click({timeout:5000});
  else if (k === "btn") await p.getByRole("button", { name: v }).first().click({timeout:5000});
  else if (k === "tab") await p.getByRole("tab", { name: v }).first().click({timeout:5000});
  else if (k === "key") await p.keyboard.press(v);
  else if (k === "wait") await p.waitForTimeout(+v);
  else if (k === "fill") { const [sel, txt] = v.split("="); await p.getByLabel(sel).first().fill(txt); await p.keyboard.press("Tab"); }
  else if (k === "file") { await p.locator("input[type=file]").first().setInputFiles(v); }
  else if (k === "sel") { const [sel, txt] = v.split("="); await p.getByLabel(sel).first().selectOption(txt); }
  else if (k === "scroll") await p.locator(v).first().scrollIntoViewIfNeeded();
  else if (k === "text") console.log(await p.locator(v).first().innerText());
  } catch (e) { console.log("act failed", a, e.message.split("\n")[0]); }
}
await p.waitForTimeout(500);
await p.screenshot({ path: out });
await b.close();
