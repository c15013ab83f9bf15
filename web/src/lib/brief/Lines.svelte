<script lang="ts">
  import type { Job } from "../api/client";
  import { say } from "../fields/say";
  import { draft, keepDraft } from "../session/drafts";
  import { assign } from "../session/path";
  import type { Session } from "../session/session.svelte";

  interface Props {
    session: Session;
    path: string;
    label: string;
    value: string | undefined;
    most?: number;
    rows?: number;
  }

  let { session, path, label, value, most = 1200, rows = 3 }: Props = $props();

  const id = $props.id();
  let typed = $state<string | null>(null);
  let refusal = $state("");

  $effect(() => {
    typed ??= draft(session.id, path);
  });

  async function commit() {
    if (typed === null) return;
    const text = typed.trim();
    if (text !== (value ?? "")) {
      const faults = await session.change((job: Job) => {
        job.brief ??= {};
        assign(job, path, text || undefined);
      });
      refusal = faults.map(say).join(" ");
      if (refusal) return;
    }
    typed = null;
    keepDraft(session.id, path, null);
  }
</script>

<label for={id} class="text-sm faint print:hidden">{label}</label>
<textarea
  {id}
  class="textarea w-full px-2 text-base print:hidden"
  {rows}
  maxlength={most}
  value={typed ?? value ?? ""}
  oninput={(e) => {
    typed = e.currentTarget.value;
    keepDraft(session.id, path, typed);
  }}
  onblur={commit}></textarea>
{#if refusal}<p role="alert" class="text-sm text-error print:hidden">{refusal}</p>{/if}
<p class="hidden whitespace-pre-line print:block">{value ?? "Nothing is written down."}</p>
