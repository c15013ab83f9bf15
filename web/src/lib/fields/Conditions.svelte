<script lang="ts">
  import type { Session } from "../session/session.svelte";
  import Measure from "./Measure.svelte";

  /** The ground's slope and the wind: what a felling is worked out with. */
  let { session }: { session: Session } = $props();

  let site = $derived(session.job.site);
</script>

<section>
  <h3 class="text-sm font-bold">Ground and wind, for felling</h3>
  <div class="grid grid-cols-2 gap-2">
    <Measure
      {session}
      path="site.slope_deg"
      label="Ground falls away, °"
      quantity="number"
      value={site.slope_deg}
      hint="level"
    />
    <Measure
      {session}
      path="site.slope_towards_deg"
      label="Downhill towards"
      quantity="bearing"
      value={site.slope_towards_deg}
      hint="along each fall"
    />
    <Measure
      {session}
      path="site.gust_m_s"
      label="Gusts, m/s"
      quantity="number"
      value={site.gust_m_s}
      hint="none counted"
    />
    <Measure
      {session}
      path="site.gust_towards_deg"
      label="Blowing to"
      quantity="bearing"
      value={site.gust_towards_deg}
      hint="from the worst side"
    />
  </div>
</section>
