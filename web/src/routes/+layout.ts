import { known } from "$lib/reference.svelte";
import type { LayoutLoad } from "./$types";

export const ssr = false;
export const prerender = false;

export const load: LayoutLoad = async () => {
  await known.load();
};
