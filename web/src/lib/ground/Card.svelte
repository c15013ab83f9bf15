<script lang="ts">
  // A thing on the ground, folded to its name, its figure and what is said of it.
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Snippet } from "svelte";
  import Name from "../fields/Name.svelte";
  import type { Session } from "../session/session.svelte";

  interface Props {
    session: Session;
    /** Where it stands in the document. */
    at: string;
    name: string;
    said: string;
    cautions: readonly string[];
    open: boolean;
    ontoggle: () => void;
    onremove: () => void;
    mark?: Snippet;
    figure?: Snippet;
    children: Snippet;
  }
  let {
    session,
    at,
    name,
    said,
    cautions,
    open,
    ontoggle,
    onremove,
    mark,
    figure,
    children,
  }: Props = $props();
</script>

<div class="rounded border border-base-300" role="group" aria-label={name}>
  <button
    class="flex w-full cursor-pointer items-start gap-2 p-2 text-left"
    aria-expanded={open}
    onclick={ontoggle}
  >
    {@render mark?.()}
    <span class="min-w-0 grow">
      <span class="block truncate font-bold">{name}</span>
      <span class="block text-sm leading-snug" data-testid="said">{said}</span>
    </span>
    {#if figure}
      <span class="shrink-0 text-right text-2xl leading-none font-bold tabular-nums"
        >{@render figure()}</span
      >
    {/if}
  </button>
  {#each cautions as caution, at (at)}
    <p class="px-2 pb-1 text-sm leading-snug font-medium">▲ {caution}</p>
  {/each}
  {#if open}
    <div class="space-y-2 border-t border-base-300 p-2">
      <div class="flex items-end gap-2">
        <div class="grow">
          <Name {session} path={`${at}.name`} label="Name" value={name} required />
        </div>
        <button class="btn touch btn-ghost px-2" aria-label={`Take away ${name}`} onclick={onremove}
          ><Icon of={Trash} size={18} /></button
        >
      </div>
      {@render children()}
    </div>
  {/if}
</div>
