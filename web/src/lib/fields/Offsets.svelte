<script lang="ts">
  import Icon from "../Icon.svelte";
  import ChevronDown from "lucide-static/icons/chevron-down.svg?raw";
  import type { Job } from "../api/client";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Measure from "./Measure.svelte";

  let { session }: { session: Session } = $props();

  let readings = $derived(session.tree.readings);
  let measured = $derived(readings.some((r) => r.offset));

  /** Writes how far off the plumb line a reading stands; none takes it out. */
  function put(i: number, part: "off_m" | "towards_deg") {
    return (value: number | undefined, _text: string, seen: Job) =>
      session.change(
        (job) => {
          const one = session.treeIn(job).readings[i];
          if (!one) return;
          if (value === undefined && part === "off_m") delete one.offset;
          else
            one.offset = {
              off_m: one.offset?.off_m ?? 0,
              towards_deg: one.offset?.towards_deg ?? session.tree.lean_towards_deg ?? 0,
              [part]: value ?? 0,
            };
        },
        undefined,
        seen,
      );
  }
</script>

{#if readings.length}
  <details class="border-y border-base-300" open={measured}>
    <summary class="flex touch cursor-pointer items-center text-sm font-medium">
      A bent stem: off the plumb line
      <Icon of={ChevronDown} size={16} class="ml-auto" />
    </summary>
    <div class="space-y-2 pb-3">
      <p class="text-sm faint">
        How far the middle of the stem stands off a plumb line through its foot, at each reading.
        Where it is given, it counts in place of the lean.
      </p>
      {#each readings as reading, i (i)}
        <div class="grid grid-cols-[4rem_1fr_1fr] items-end gap-2">
          <span class="pb-3 text-sm font-semibold">{print("height", reading.at_m)}</span>
          <Measure
            {session}
            path={`${session.treePath}.readings[${i}].offset.off_m`}
            label={`Off, reading ${i + 1}`}
            quantity="height"
            value={reading.offset?.off_m}
            hint="not said"
            put={put(i, "off_m")}
          />
          <Measure
            {session}
            path={`${session.treePath}.readings[${i}].offset.towards_deg`}
            label="Towards"
            quantity="bearing"
            value={reading.offset?.towards_deg}
            hint="north"
            put={put(i, "towards_deg")}
          />
        </div>
      {/each}
    </div>
  </details>
{/if}
