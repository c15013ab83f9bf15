import { api } from "$lib/api/client";
import type { PageLoad } from "./$types";

export const load: PageLoad = async () => {
  try {
    const { data } = await api.GET("/api/jobs");
    return { jobs: data ?? null };
  } catch {
    return { jobs: null };
  }
};
