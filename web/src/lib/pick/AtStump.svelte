<script lang="ts">
  // For the sawyer at the stump: the measures large, what to cut in order, what to call, and what
  // else would bring it over.
  import type { Detail } from "../api/client";
  import { wind } from "../draw/view";
  import { figure, print, unitOf } from "../reference.svelte";
  import Stump from "./Stump.svelte";

  interface Props {
    detail: Detail;
    fell: NonNullable<Detail["fell"]>;
    /** Azimuth of the fall, degrees. */
    towards: number;
    call: string;
  }

  let { detail, fell, towards, call }: Props = $props();

  let measures = $derived([
    { name: "Face, deep", m: fell.face_depth_m },
    { name: "Back cut", m: fell.back_cut_m },
    { name: "Hinge, left", m: fell.left_m },
    { name: "Hinge, right", m: fell.right_m },
  ]);
</script>

<div class="border-b border-base-300 px-4 py-3">
  <p class="text-sm faint">Falls to</p>
  <p class="text-4xl leading-none font-bold">{wind(towards)} {Math.round(towards)}°</p>
  {#if call}<p class="mt-1 text-lg font-semibold">{call}</p>{/if}
</div>
<dl class="grid grid-cols-2 border-b border-base-300" data-testid="at-stump">
  {#each measures as one, i (one.name)}
    <div class={["border-base-300 px-4 py-2", i % 2 && "border-l", i > 1 && "border-t"]}>
      <dt class="text-sm faint">{one.name}</dt>
      <dd class="text-4xl leading-none font-bold">
        {figure("diameter", one.m)}<span class="ml-1 text-base">{unitOf("diameter").label}</span>
      </dd>
    </div>
  {/each}
</dl>
<div class="border-b border-base-300 px-2 py-1"><Stump {fell} /></div>
{#each detail.pulls as line (line.id)}
  <div class="border-b border-base-300 px-4 py-2">
    <p class="text-sm faint">{line.holds ? "Holds" : "Pulls"}, to {line.name}</p>
    <p class="text-3xl leading-none font-bold">
      {print("force", line.need_kn)}{#if line.gives_kn !== undefined}<span
          class="ml-2 text-lg font-semibold">of {print("force", line.gives_kn)}</span
        >{/if}
    </p>
    <p class="mt-1">{line.said}</p>
  </div>
{/each}
<ol class="list-decimal space-y-1.5 border-b border-base-300 py-3 pr-4 pl-9 text-lg leading-snug">
  {#each fell.steps as step, at (at)}<li>{step}</li>{/each}
</ol>
<div class="border-b border-base-300 px-4 py-2">
  <p class="text-sm faint">If that does not do</p>
  {#each fell.plans as plan, at (at)}
    <p class="mt-1"><b>{plan.title}</b>, {plan.verdict}: {plan.said}</p>
  {/each}
</div>
