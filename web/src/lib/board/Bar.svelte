<script lang="ts">
  import { resolve } from "$app/paths";
  import Download from "@lucide/svelte/icons/download";
  import FileText from "@lucide/svelte/icons/file-text";
  import Truck from "@lucide/svelte/icons/truck";
  import Redo from "@lucide/svelte/icons/redo-2";
  import Ruler from "@lucide/svelte/icons/ruler";
  import Search from "@lucide/svelte/icons/search";
  import Undo from "@lucide/svelte/icons/undo-2";
  import SaveMark from "../session/SaveMark.svelte";
  import type { Session } from "../session/session.svelte";
  import Topbar from "../Topbar.svelte";
  import type { Hand } from "./hand";
  import type { View } from "./view.svelte";

  let { session, view, hand }: { session: Session; view: View; hand: Hand } = $props();
</script>

<Topbar>
  <input
    class="input touch w-full max-w-64 min-w-0 input-ghost px-2 text-lg font-semibold text-ellipsis"
    aria-label="Name of the job"
    maxlength="120"
    value={session.job.name}
    onchange={(e) => hand.rename(e.currentTarget.value)}
  />
  <SaveMark saver={session.saver} />
  <span class="grow"></span>
  <button
    class="btn touch btn-ghost px-2"
    aria-label="Undo"
    title="Undo"
    disabled={!session.canUndo}
    onclick={() => session.undo()}><Undo size={20} /></button
  >
  <button
    class="btn touch btn-ghost px-2 max-sm:hidden"
    aria-label="Redo"
    title="Redo"
    disabled={!session.canRedo}
    onclick={() => session.redo()}><Redo size={20} /></button
  >
  <a
    class="btn touch btn-ghost px-2 max-sm:hidden"
    href={resolve("/job/[id]/survey", { id: session.id })}
    aria-label="Survey"
    title="Survey: a walk round the tree"><Ruler size={20} /></a
  >
  <a
    class="btn touch btn-ghost px-2 max-sm:hidden"
    href={resolve("/job/[id]/briefing", { id: session.id })}
    aria-label="Briefing"
    title="Briefing: the paper that goes up the tree"><FileText size={20} /></a
  >
  <a
    class="btn touch btn-ghost px-2 max-lg:hidden"
    href={resolve("/job/[id]/ground", { id: session.id })}
    aria-label="On the ground"
    title="On the ground: logs, moving, loads"><Truck size={20} /></a
  >
  <a
    class="btn touch btn-ghost px-2 max-sm:hidden"
    href={`/api/jobs/${session.id}/file`}
    download
    rel="external"
    aria-label="Download this job"
    title="Download as a file"><Download size={20} /></a
  >
  <button
    class="btn touch btn-ghost px-2 max-sm:hidden"
    aria-label="Everything by name"
    title="Everything by name (Ctrl K)"
    onclick={() => (view.palette = !view.palette)}><Search size={20} /></button
  >
  <button
    class="btn touch btn-ghost px-2 text-lg font-bold max-sm:hidden"
    aria-label="Keys"
    title="Keys"
    aria-expanded={view.keys}
    onclick={() => (view.keys = !view.keys)}>?</button
  >
</Topbar>
