<script lang="ts">
  import Icon from "../Icon.svelte";
  import Camera from "lucide-static/icons/camera.svg?raw";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import { api, newId, type PhotoHead } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import type { Session } from "../session/session.svelte";
  import { when } from "../when";
  import { drop, keep, send, smaller, waiting } from "./pictures";

  let { session }: { session: Session } = $props();

  let photos = $state.raw<PhotoHead[]>([]);
  let unsent = $state(0);
  let about = $state("");
  let note = $state("");
  let refusal = $state("");
  let busy = $state(false);

  let subjects = $derived<[string, string][]>([
    ["", "the tree as a whole"],
    ...(session.treeFigures?.defects ?? []).map((d): [string, string] => [
      `defect ${d.id}`,
      d.title,
    ]),
    ...session.tree.limbs.map((l): [string, string] => [`limb ${l.id}`, l.name || `limb ${l.id}`]),
    ...session.job.site.targets.map((t): [string, string] => [`target ${t.id}`, t.name]),
  ]);
  const title = (of: string) => subjects.find(([id]) => id === of)?.[1] ?? of;

  async function list() {
    const { data } = await api
      .GET("/api/jobs/{id}/photos", { params: { path: { id: session.id } } })
      .catch(() => ({ data: undefined }));
    if (data) photos = data;
  }

  /** Sends what could not be sent before. */
  async function catchUp() {
    for (const one of await waiting(session.id).catch(() => [])) {
      try {
        const why = await send(one);
        if (why) refusal = `A picture was not kept: ${why}.`;
        await drop(one.id);
      } catch {
        break;
      }
    }
    unsent = (await waiting(session.id).catch(() => [])).length;
    await list();
  }

  $effect(() => {
    void catchUp();
    addEventListener("online", catchUp);
    return () => removeEventListener("online", catchUp);
  });

  async function add(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const files = [...(input.files ?? [])];
    input.value = "";
    refusal = "";
    busy = true;
    for (const file of files) {
      try {
        const picture = await smaller(file);
        await keep({ id: newId(), job: session.id, about, note: note.trim(), picture });
      } catch {
        refusal = `${file.name} is no picture that this browser can read: nothing was kept of it.`;
      }
    }
    note = "";
    await catchUp();
    busy = false;
  }

  async function remove(id: string) {
    await api.DELETE("/api/jobs/{id}/photos/{photo}", {
      params: { path: { id: session.id, photo: id } },
    });
    await list();
  }
</script>

<div class="space-y-4">
  <Choice label="It shows" value={about} options={subjects} onchoose={(v) => (about = v)} />
  <label class="block">
    <span class="mb-0.5 block text-sm font-medium">Note</span>
    <input
      class="input touch w-full px-2 text-base"
      maxlength="200"
      placeholder="what to look at"
      bind:value={note}
    />
  </label>
  <label
    class="btn h-14 w-full text-lg btn-primary focus-within:outline-3 focus-within:outline-primary"
  >
    <Icon of={Camera} size={22} />
    {busy ? "Keeping it" : "Take or choose a picture"}
    <input
      type="file"
      accept="image/*"
      multiple
      class="sr-only"
      aria-label="Take or choose a picture"
      onchange={add}
    />
  </label>
  <p class="text-xs faint">
    Kept with the job, at most 2,000 pixels a side. What the camera noted of the place is left out.
  </p>
  {#if refusal}<p role="alert" class="text-error">{refusal}</p>{/if}
  {#if unsent}
    <p role="status" class="border-l-4 border-warning pl-2">
      {unsent === 1 ? "1 picture is" : `${unsent} pictures are`} kept on this device until there is a
      signal.
    </p>
  {/if}
  <ul class="grid grid-cols-2 gap-3" aria-label="Photos">
    {#each photos as photo (photo.id)}
      <li>
        <img
          class="aspect-4/3 w-full bg-base-200 object-cover"
          src={`/api/jobs/${session.id}/photos/${photo.id}`}
          alt={photo.note || title(photo.about)}
          loading="lazy"
        />
        <div class="flex items-start gap-1">
          <p class="min-w-0 grow text-sm leading-snug">
            <b>{title(photo.about)}</b>
            {photo.note}<span class="block text-xs faint">{when(photo.taken_at)}</span>
          </p>
          <button
            class="btn touch btn-ghost px-2"
            aria-label={`Remove the picture of ${title(photo.about)}`}
            onclick={() => remove(photo.id)}><Icon of={Trash} size={18} /></button
          >
        </div>
      </li>
    {/each}
  </ul>
</div>
