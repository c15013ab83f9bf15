import { api } from "$lib/api/client";
import type { PageLoad } from "./$types";

export const load: PageLoad = async ({ url }) => {
  const search = url.searchParams.get("search") ?? "";
  const deleted = url.searchParams.has("bin");
  const asked = url.searchParams.get("sort");
  const sort: "saved" | "name" | "day" = asked === "name" || asked === "day" ? asked : "saved";
  try {
    const { data } = await api.GET("/api/jobs", {
      params: {
        query: {
          ...(search && { search }),
          ...(deleted && { deleted }),
          ...(sort !== "saved" && { sort }),
        },
      },
    });
    return { list: data ?? null, search, deleted, sort };
  } catch {
    return { list: null, search, deleted, sort };
  }
};
