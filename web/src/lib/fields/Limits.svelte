<script lang="ts">
  import { resolve } from "$app/paths";
  import type { Session } from "../session/session.svelte";
  import Measure from "./Measure.svelte";

  let { session }: { session: Session } = $props();

  let limits = $derived(session.job.limits);
  let stands = $derived(session.assessment?.limits);
</script>

<div class="space-y-4">
  <p class="text-sm faint">
    What stands here in italics comes from the
    <a class="link" href={resolve("/policy")}>crew’s policy</a>; what you type holds for this job
    alone. A limit marked on the gear wins over one worked out from its breaking strength.
  </p>
  {#if stands}
    <p class="text-sm">
      Weight counts at its <b>{stands.weight_end}</b> end ·
      {stands.school === "peak-within-working-load"
        ? "the peak is held to the working load"
        : `at rest within the working load, the peak within ${stands.peak_share_pct} % of the strength`}
      · crane charts to {stands.chart_use_pct} %
    </p>
  {/if}
  <Measure
    {session}
    path="limits.piece_kg"
    label="Heaviest piece"
    quantity="mass"
    value={limits.piece_kg ?? stands?.piece_kg ?? undefined}
    hint="no limit"
  />
  <Measure
    {session}
    path="limits.design_factor"
    label="One design factor for all gear"
    quantity="number"
    value={limits.design_factor}
    hint={`by kind: ropes ${stands?.design_factors.rope ?? ""}, blocks ${stands?.design_factors.block ?? ""}`}
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
    value={limits.run_m ?? stands?.run_m ?? undefined}
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
