import { chromium } from "playwright";
const [,, out, url, w, h, theme, ...acts] = process.argv;
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox"] });
const p = await b.newPage({ viewport: { width: +w, height: +h }, colorScheme: theme === "dusk" ? "dark" : "light" });
p.on("pageerror", (e) => console.log("ERR", e.message));
await p.goto("http://127.0.0.1:8420" + url);
await p.waitForTimeout(1800);
for (const a of acts) {
  const [kind, ...rest] = a.split(":"); const arg = rest.join(":");
  if (kind === "press") await p.keyboard.press(arg);
  if (kind === "click") await p.getByRole("button", { name: arg, exact: true }).first().click();
  if (kind === "text") await p.getByText(arg).first().click();
  if (kind === "wait") await p.waitForTimeout(+arg);
  if (kind === "scroll") await p.evaluate((s) => { const e = [...document.querySelectorAll("aside .overflow-y-auto, main .overflow-y-auto, .overflow-y-auto")].filter(x=>x.scrollHeight>x.clientHeight+20).pop(); if (e) e.scrollTop = +s; }, arg);
}
await p.waitForTimeout(700);
await p.screenshot({ path: out });
await b.close();
