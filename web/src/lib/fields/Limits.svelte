<script lang="ts">
  import type { Session } from "../session/session.svelte";
  import Measure from "./Measure.svelte";

  let { session }: { session: Session } = $props();

  let limits = $derived(session.job.limits);
  let stands = $derived(session.assessment?.limits);
</script>

<div class="space-y-4">
  <p class="text-sm faint">
    The weight counts at the heavy end of its estimate. A limit marked on the gear wins over one
    worked out from its breaking strength.
  </p>
  <Measure
    {session}
    path="limits.piece_kg"
    label="Heaviest piece"
    quantity="mass"
    value={limits.piece_kg}
    hint="no limit"
  />
  <Measure
    {session}
    path="limits.design_factor"
    label="Design factor, nothing marked"
    quantity="number"
    value={stands?.design_factor}
  />
  <Measure
    {session}
    path="limits.throw_kg"
    label="Heaviest piece thrown by hand"
    quantity="mass"
    value={stands?.throw_kg}
  />
  <Measure
    {session}
    path="limits.wood_factor"
    label="Strength of the stem, divided by"
    quantity="number"
    value={stands?.wood_factor}
  />
  <Measure
    {session}
    path="limits.hand_kn"
    label="One person holds"
    quantity="force"
    value={stands?.hand_kn}
  />
  <Measure
    {session}
    path="limits.run_m"
    label="Longest run"
    quantity="height"
    value={limits.run_m}
    hint="no limit"
  />
  <Measure
    {session}
    path="limits.clear_m"
    label="Keep clear of everything"
    quantity="height"
    value={stands?.clear_m}
  />
  <Measure
    {session}
    path="limits.close_from_pct"
    label="“Close” from, % of a limit"
    quantity="number"
    value={stands?.close_from_pct}
  />
</div>
