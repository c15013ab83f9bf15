<script lang="ts">
  // Where on earth the plan's origin lies, and how its north does: typed, or from the phone that stands there.
  import Icon from "../Icon.svelte";
  import Locate from "lucide-static/icons/locate.svg?raw";
  import Measure from "../fields/Measure.svelte";
  import { say } from "../fields/say";
  import type { Session } from "../session/session.svelte";
  import { readPlace } from "./plan";

  let { session }: { session: Session } = $props();

  const id = $props.id();
  let earth = $derived(session.job.site.earth);
  let shown = $derived(earth ? `${earth.lat_deg}, ${earth.lon_deg}` : "");
  let refusal = $state("");
  let found = $state("");
  let looking = $state(false);

  async function put(lat: number, lon: number) {
    const faults = await session.change((job) => {
      job.site.earth = { ...job.site.earth, lat_deg: lat, lon_deg: lon };
    });
    refusal = faults.map(say).join(" ");
  }

  async function typed(text: string) {
    found = refusal = "";
    if (text.trim() === shown) return;
    if (!text.trim()) {
      await session.change((job) => void delete job.site.earth);
      return;
    }
    const place = readPlace(text);
    if (typeof place === "string") refusal = place;
    else await put(place.lat, place.lon);
  }

  function here() {
    found = refusal = "";
    if (!("geolocation" in navigator)) {
      refusal = "This device cannot tell where it is: type it.";
      return;
    }
    looking = true;
    navigator.geolocation.getCurrentPosition(
      (at) => {
        looking = false;
        const { latitude, longitude, accuracy } = at.coords;
        found = `Found to ${Math.ceil(accuracy)} m.`;
        void put(+latitude.toFixed(7), +longitude.toFixed(7));
      },
      (why) => {
        looking = false;
        refusal =
          why.code === why.PERMISSION_DENIED
            ? "This device was not allowed to tell where it is: type it."
            : "This device cannot tell where it is just now: try again under open sky, or type it.";
      },
      { enableHighAccuracy: true, timeout: 20_000, maximumAge: 0 },
    );
  }
</script>

<section>
  <h3 class="text-sm font-bold">On earth, for maps and GeoJSON</h3>
  <label class="block" for={id}>Latitude and longitude of the plan's origin</label>
  <div class="flex flex-wrap gap-2">
    <input
      {id}
      class={["input touch grow basis-52", refusal && "input-error"]}
      placeholder="52.10012, 4.30034"
      value={shown}
      aria-invalid={refusal ? "true" : undefined}
      onchange={(e) => typed(e.currentTarget.value)}
    />
    <button class="btn touch btn-outline" disabled={looking} onclick={here}
      ><Icon of={Locate} size={18} /> {looking ? "Looking" : "I stand there"}</button
    >
  </div>
  {#if refusal}<p role="alert" class="text-error">{refusal}</p>{/if}
  {#if found}<p role="status" class="faint">{found}</p>{/if}
  {#if earth}
    <Measure
      {session}
      path="site.earth.north_deg"
      label="True bearing of the plan's north"
      quantity="bearing"
      value={earth.north_deg}
      hint="true north"
    />
  {/if}
</section>
