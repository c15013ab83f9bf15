import {
  api,
  type Earth,
  type Job,
  type PlanPart,
  type PlanRead,
  type PlanTold,
} from "../api/client";

/** As many bytes as the server reads of a plan. */
export const mostPlanBytes = 6_000_000;

/** A file as the server reads it. */
export async function inBase64(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = "";
  for (let i = 0; i < bytes.length; i += 0x8000)
    text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

/** What a file would do to the site of a job. */
export function readPlan(
  job: Job,
  name: string,
  data: string,
  told: PlanTold,
): Promise<{ data?: PlanRead; error?: unknown }> {
  return api.POST("/api/read-plan", { body: { job, name, data, told } });
}

function put<T extends { id: string }>(list: T[], part: T, id: string): void {
  const at = list.findIndex((one) => one.id === id);
  if (at >= 0) list[at] = { ...part, id };
  else list.push({ ...part, id });
}

/** Takes parts of a plan over into a job: what has an id changes what is there, what has none is new, under a fresh id. */
export function takeParts(
  job: Job,
  parts: readonly PlanPart[],
  earth: Earth | undefined,
  fresh: (job: Job, letter: string) => string,
): void {
  const site = job.site;
  for (const part of parts) {
    const id = part.id || fresh(job, part.kind.charAt(0) || "x");
    if (part.target) put(site.targets, part.target, id);
    else if (part.zone) put(site.zones, part.zone, id);
    else if (part.anchor) put(site.anchors, part.anchor, id);
    else if (part.escape) put((site.escapes ??= []), part.escape, id);
    else if (part.foot) {
      const tree = job.trees.find((one) => one.id === part.id);
      if (tree) tree.at = part.foot;
    }
  }
  if (earth && !site.earth) site.earth = earth;
}

/** A latitude and a longitude as they are typed, in degrees; a sentence where they are none. */
export function readPlace(text: string): { lat: number; lon: number } | string {
  const found =
    /^\s*([+-]?\d+(?:\.\d+)?)\s*°?\s*([NS])?[\s,;]+([+-]?\d+(?:\.\d+)?)\s*°?\s*([EW])?\s*$/i.exec(
      text,
    );
  if (!found)
    return `“${text}” is no place: a latitude and a longitude in degrees, such as 52.10012, 4.30034.`;
  const lat = Number(found[1]) * (found[2]?.toUpperCase() === "S" ? -1 : 1);
  const lon = Number(found[3]) * (found[4]?.toUpperCase() === "W" ? -1 : 1);
  if (Math.abs(lat) > 85) return `The latitude, ${lat}, must be from −85 to 85 degrees.`;
  if (Math.abs(lon) > 180) return `The longitude, ${lon}, must be from −180 to 180 degrees.`;
  return { lat, lon };
}
