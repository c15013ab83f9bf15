<script lang="ts">
  import { assign } from "../session/path";
  import type { Session } from "../session/session.svelte";

  interface Props {
    session: Session;
    path: string;
    label: string;
    value: string | undefined;
    /** What a reader hears, when it is more than the label. */
    reads?: string;
    /** What stands in the empty field. */
    placeholder?: string;
    /** Something must stand here: an empty text leaves what was. */
    required?: boolean;
  }

  let {
    session,
    path,
    label,
    value,
    reads,
    placeholder = "unnamed",
    required = false,
  }: Props = $props();

  function commit(text: string) {
    const name = text.trim();
    if (name === (value ?? "") || (required && !name)) return;
    void session.change((job) => assign(job, path, name || undefined));
  }
</script>

<label class="block">
  {#if label}<span class="mb-0.5 block text-sm font-medium">{label}</span>{/if}
  <input
    class="input touch w-full px-2 text-base font-medium"
    maxlength="80"
    aria-label={reads}
    {placeholder}
    value={value ?? ""}
    onchange={(e) => commit(e.currentTarget.value)}
  />
</label>
