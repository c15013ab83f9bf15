import { error } from "@sveltejs/kit";
import { api, explain } from "$lib/api/client";
import type { PageLoad } from "./$types";

export const load: PageLoad = async () => {
  const answer = await api.GET("/api/policy").catch(() => null);
  if (!answer) error(503, explain(null));
  if (!answer.data) error(answer.response.status, explain(answer.error));
  return { head: answer.data };
};
