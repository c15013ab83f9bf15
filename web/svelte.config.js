import adapter from "@sveltejs/adapter-static";
import { vitePreprocess } from "@sveltejs/vite-plugin-svelte";

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  kit: {
    adapter: adapter({ fallback: "200.html", precompress: true }),
    // Two views of one small application: one file spares a chain of requests.
    output: { bundleStrategy: "single" },
  },
};
