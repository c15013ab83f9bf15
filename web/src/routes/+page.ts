import { api } from "$lib/api/client";
import type { PageLoad } from "./$types";

export const load: PageLoad = async ({ url }) => {
  const search = url.searchParams.get("search") ?? "";
  const deleted = url.searchParams.has("bin");
  try {
    const { data } = await api.GET("/api/jobs", {
      params: { query: { ...(search && { search }), ...(deleted && { deleted }) } },
    });
    return { list: data ?? null, search, deleted };
  } catch {
    return { list: null, search, deleted };
  }
};
