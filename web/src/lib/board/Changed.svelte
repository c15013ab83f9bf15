<script lang="ts">
  // For who listens: what the last change did, not the whole job again.
  import type { Assessment } from "../api/client";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";

  let { session }: { session: Session } = $props();

  let said = $state("");
  let before: Assessment | null = null;

  type Row = Assessment["picks"][number];
  const brief = (row: Row) =>
    [
      `Pick ${row.number}, ${row.title}`,
      row.done ? "down" : "",
      row.mass_kg ? print("mass", row.mass_kg.likely) : "",
      row.verdict,
      row.worst,
    ]
      .filter(Boolean)
      .join(", ");

  // Said once the figures have come to rest.
  $effect(() => {
    const now = session.assessment;
    const chosen = session.pick?.id;
    if (!now) return;
    if (!before) {
      before = now;
      return;
    }
    const wait = setTimeout(() => {
      const was = before ?? now;
      before = now;
      const rows = now.picks.filter((row) => {
        const old = was.picks.find((p) => p.id === row.id);
        if (!old || old.verdict !== row.verdict || old.done !== row.done) return true;
        // Of the one in hand, its figures too.
        return (
          row.id === chosen &&
          (old.mass_kg?.likely !== row.mass_kg?.likely || old.worst !== row.worst)
        );
      });
      const gone = was.picks.filter((old) => !now.picks.some((p) => p.id === old.id)).length;
      const more = rows.length > 4 ? `and ${rows.length - 4} more` : "";
      said = [
        ...rows.slice(0, 4).map(brief),
        more,
        gone ? `${gone} taken out of the order` : "",
        rows.length + gone > 0 && was.verdict !== now.verdict ? `The job: ${now.verdict}` : "",
      ]
        .filter(Boolean)
        .join(". ")
        .replace(". and ", " and ");
    }, 700);
    return () => clearTimeout(wait);
  });
</script>

<p class="sr-only" aria-live="polite" data-testid="changed">{said}</p>
