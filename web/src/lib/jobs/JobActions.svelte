<script lang="ts">
  // What can be done with a job in the list.
  import Archive from "lucide-static/icons/archive.svg?raw";
  import Copy from "lucide-static/icons/copy.svg?raw";
  import Download from "lucide-static/icons/download.svg?raw";
  import Pencil from "lucide-static/icons/pencil.svg?raw";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { JobRow } from "../api/client";
  import Icon from "../Icon.svelte";

  interface Props {
    job: JobRow;
    onrename: () => void;
    oncopy: () => void;
    onremove: () => void;
  }
  let { job, onrename, oncopy, onremove }: Props = $props();
</script>

<div class="-mr-2 flex shrink-0">
  <button
    class="btn touch btn-ghost px-2"
    aria-label={`Rename ${job.name}`}
    title="Rename"
    onclick={onrename}
  >
    <Icon of={Pencil} size={18} />
  </button>
  <button
    class="btn touch btn-ghost px-2"
    aria-label={`Copy ${job.name}`}
    title="Copy"
    onclick={oncopy}
  >
    <Icon of={Copy} size={18} />
  </button>
  <a
    class="btn touch btn-ghost px-2"
    href={`/api/jobs/${job.id}/file`}
    download
    rel="external"
    aria-label={`Download ${job.name}`}
    title="Download as a file"
  >
    <Icon of={Download} size={18} />
  </a>
  <a
    class="btn touch btn-ghost px-2"
    href={`/api/jobs/${job.id}/archive`}
    download
    rel="external"
    aria-label={`Archive of ${job.name}`}
    title="Download whole: with pictures, briefings, gear and rules"
  >
    <Icon of={Archive} size={18} />
  </a>
  <button
    class="btn touch btn-ghost px-2"
    aria-label={`Delete ${job.name}`}
    title="Delete"
    onclick={onremove}
  >
    <Icon of={Trash} size={18} />
  </button>
</div>
