<script lang="ts">
  import { freshId } from "../order/edits";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Compass from "./Compass.svelte";

  let { session }: { session: Session } = $props();

  let last = $derived(session.tree.limbs.filter((l) => !l.parent).at(-1));

  // The walk goes clockwise: a limb that grows further round is at the same height, one
  // that begins a new round a little higher.
  function add(azimuth: number) {
    const top = session.treeFigures?.stem.at(-1)?.at_m ?? 8;
    const start = Math.round(top * 4) / 10;
    const at = last ? (azimuth > last.azimuth_deg ? last.at_m : last.at_m + 0.6) : start;
    const id = freshId(session.job, "l");
    const like = last;
    void session.change((job) => {
      session.treeIn(job).limbs.push({
        id,
        name: `limb ${session.treeIn(job).limbs.length + 1}`,
        at_m: Math.round(Math.min(top, at) * 10) / 10,
        azimuth_deg: azimuth,
        angle_deg: like?.angle_deg ?? 60,
        diameter_m: like?.diameter_m ?? 0.12,
        length_m: like?.length_m ?? 4,
      });
    });
  }
</script>

<div class="mb-4 space-y-1">
  <Compass label="The next limb grows towards" value={undefined} onchoose={add} />
  <p class="text-sm faint">
    {last
      ? `The last one, ${last.name ?? last.id}, leaves at ${print("height", last.at_m)}.`
      : "Begin with the lowest."} Open it below for its height, its girth and its length.
  </p>
</div>
