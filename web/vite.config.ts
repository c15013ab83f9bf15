import { sveltekit } from "@sveltejs/kit/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  build: {
    // The content policy allows no inline data but images: keep fonts as files.
    assetsInlineLimit: 0,
  },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
