import { error } from "@sveltejs/kit";
import { api, explain } from "$lib/api/client";
import { preferences } from "$lib/preferences.svelte";
import type { PageLoad } from "./$types";

/** How long the board waits for figures that were asked for with it, ms; later it asks itself. */
const patience = 300;

export const load: PageLoad = async ({ params }) => {
  const path = { id: params.id };
  const figures = api
    .GET("/api/jobs/{id}/figures", { params: { path, query: { units: preferences.units } } })
    .then((answer) => answer.data ?? null)
    .catch(() => null);
  const answer = await api.GET("/api/jobs/{id}", { params: { path } }).catch(() => null);
  if (!answer) error(503, explain(null));
  if (!answer.data) error(answer.response.status, explain(answer.error));
  const late = new Promise<null>((settle) => setTimeout(() => settle(null), patience));
  return { head: answer.data, figures: await Promise.race([figures, late]) };
};
