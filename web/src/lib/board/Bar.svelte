<script lang="ts">
  import { resolve } from "$app/paths";
  import Icon from "../Icon.svelte";
  import Download from "lucide-static/icons/download.svg?raw";
  import FileText from "lucide-static/icons/file-text.svg?raw";
  import Truck from "lucide-static/icons/truck.svg?raw";
  import Redo from "lucide-static/icons/redo-2.svg?raw";
  import Ruler from "lucide-static/icons/ruler.svg?raw";
  import Search from "lucide-static/icons/search.svg?raw";
  import Undo from "lucide-static/icons/undo-2.svg?raw";
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
    onclick={() => session.undo()}><Icon of={Undo} size={20} /></button
  >
  <button
    class="btn touch btn-ghost px-2 max-sm:hidden"
    aria-label="Redo"
    title="Redo"
    disabled={!session.canRedo}
    onclick={() => session.redo()}><Icon of={Redo} size={20} /></button
  >
  <a
    class="btn touch btn-ghost px-2 max-sm:hidden"
    href={resolve("/job/[id]/survey", { id: session.id })}
    aria-label="Survey"
    title="Survey: a walk round the tree"><Icon of={Ruler} size={20} /></a
  >
  <a
    class="btn touch btn-ghost px-2 max-sm:hidden"
    href={resolve("/job/[id]/briefing", { id: session.id })}
    aria-label="Briefing"
    title="Briefing: the paper that goes up the tree"><Icon of={FileText} size={20} /></a
  >
  <a
    class="btn touch btn-ghost px-2 max-lg:hidden"
    href={resolve("/job/[id]/ground", { id: session.id })}
    aria-label="On the ground"
    title="On the ground: logs, moving, loads"><Icon of={Truck} size={20} /></a
  >
  <a
    class="btn touch btn-ghost px-2 max-sm:hidden"
    href={`/api/jobs/${session.id}/file`}
    download
    rel="external"
    aria-label="Download this job"
    title="Download as a file"><Icon of={Download} size={20} /></a
  >
  <button
    class="btn touch btn-ghost px-2 max-sm:hidden"
    aria-label="Everything by name"
    title="Everything by name (Ctrl K)"
    onclick={() => (view.palette = !view.palette)}><Icon of={Search} size={20} /></button
  >
  <button
    class="btn touch btn-ghost px-2 text-lg font-bold max-sm:hidden"
    aria-label="Keys"
    title="Keys"
    aria-expanded={view.keys}
    onclick={() => (view.keys = !view.keys)}>?</button
  >
</Topbar>
