<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Pick } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import Measure from "../fields/Measure.svelte";
  import Name from "../fields/Name.svelte";
  import ItemPicker from "../locker/ItemPicker.svelte";
  import { print } from "../reference.svelte";
  import { assign } from "../session/path";
  import type { Session } from "../session/session.svelte";

  let { session, pick, at }: { session: Session; pick: Pick; at: string } = $props();

  let cranes = $derived(session.job.site.cranes);
  let lift = $derived(session.detail?.id === pick.id ? session.detail.lift : null);

  function setCrane(id: string) {
    void session.changePick(pick.id, (one) => {
      if (one.lift) one.lift.crane = id;
    });
  }

  function add() {
    void session.changePick(pick.id, (one) => {
      const slings = one.lift?.slings;
      const last = slings?.at(-1);
      if (slings && last)
        slings.push({ ...last, name: `sling ${slings.length + 1}`, at_m: last.at_m + 0.5 });
    });
  }

  /** Ties and lengths that hold it as it grows, on the slings that are there. */
  let fits = $derived(session.detail?.id === pick.id ? (session.detail.piece?.slings ?? []) : []);

  function fit() {
    const found = fits.map((s) => ({ ...s }));
    void session.changePick(pick.id, (one) => {
      if (!one.lift) return;
      const were = one.lift.slings;
      one.lift.slings = [
        ...found.map((s, k) => ({ ...(were[k] ?? s), at_m: s.at_m, length_m: s.length_m })),
        ...were.slice(found.length),
      ];
    });
  }

  function remove(k: number) {
    void session.changePick(pick.id, (one) => one.lift?.slings.splice(k, 1));
  }
</script>

<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Crane and slings</legend>
  {#if !pick.lift}
    <p class="text-sm faint">There is no crane on the site yet: add one under Setup, Site.</p>
  {:else}
    <Choice
      label="Crane"
      value={pick.lift.crane}
      options={cranes.map((c): [string, string] => [c.id, c.name])}
      onchoose={setCrane}
    />
    <Measure
      {session}
      path={`${at}.lift.holds_kg`}
      label="Held before the cut"
      quantity="mass"
      value={pick.lift.holds_kg}
      hint={lift ? print("mass", lift.holds_kg) : undefined}
    />
    {#each pick.lift.slings as sling, k (k)}
      <div class="space-y-1 border-t border-base-300 pt-2">
        <div class="grid grid-cols-[1fr_auto] items-end gap-2">
          <Name
            {session}
            path={`${at}.lift.slings[${k}].name`}
            label={`Sling ${k + 1}`}
            value={sling.name}
          />
          <button
            class="btn touch btn-ghost px-2"
            aria-label={`Remove ${sling.name}`}
            disabled={pick.lift.slings.length < 2}
            onclick={() => remove(k)}><Icon of={Trash} size={18} /></button
          >
        </div>
        <ItemPicker
          {session}
          label={`Gear of ${sling.name}`}
          kinds={["sling"]}
          value={sling.item}
          onchoose={(item) =>
            void session.take((job) => assign(job, `${at}.lift.slings[${k}].item`, item?.id))}
        />
        <div class="grid grid-cols-3 gap-2">
          <Measure
            {session}
            path={`${at}.lift.slings[${k}].at_m`}
            label="From the cut"
            quantity="height"
            value={sling.at_m}
            required
          />
          <Measure
            {session}
            path={`${at}.lift.slings[${k}].length_m`}
            label="Long"
            quantity="height"
            value={sling.length_m}
            required
          />
          {#if !sling.item}
            <Measure
              {session}
              path={`${at}.lift.slings[${k}].wll_kn`}
              label="Marked"
              quantity="force"
              value={sling.wll_kn}
              required
            />
          {/if}
        </div>
      </div>
    {/each}
    <div class="grid grid-cols-2 gap-2">
      <button class="btn touch btn-outline" onclick={add}>Add a sling</button>
      <button class="btn touch btn-outline" disabled={fits.length === 0} onclick={fit}
        >Fit to how it grows</button
      >
    </div>
  {/if}
</fieldset>
