import { sveltekit } from "@sveltejs/kit/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  build: {
    // The content policy allows no inline data but images: keep fonts as files.
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        // A browser has few connections to one server: a file for what every page needs, and
        // one for what the board draws first; the rest comes when it is opened.
        codeSplitting: {
          groups: [
            {
              name: "base",
              test: /node_modules\/(svelte|@sveltejs|openapi-fetch|esm-env|clsx|devalue)\//,
            },
            {
              name: "board",
              test: /src\/lib\/(api|board|core|crew|draw|ladder\/Mark|session)\/(?!.*(PlanLarge|Pulls|rose))|src\/lib\/[^/]*$|src\/routes\/job\/\[id\]\/Board/,
            },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
