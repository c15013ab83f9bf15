import { error } from "@sveltejs/kit";
import { api, explain } from "$lib/api/client";
import type { PageLoad } from "./$types";

export const load: PageLoad = async ({ params }) => {
  const answer = await api
    .GET("/api/jobs/{id}", { params: { path: { id: params.id } } })
    .catch(() => null);
  if (!answer) error(503, explain(null));
  if (!answer.data) error(answer.response.status, explain(answer.error));
  return { head: answer.data };
};
