import { api, explain, type ItemRow } from "../api/client";
import { kinds } from "./words";

/** As many as the server gives at once. */
const page = 1000;
const places = new Map(kinds.map(([id], i) => [id as string, i]));

/** The whole locker in short, as the server last said. */
class Rows {
  items = $state.raw<ItemRow[] | null>(null);
  revision = $state(0);
  trouble = $state("");
  /** How many there are in all; more than items while they still come. */
  total = $state(0);
  private texts: string[] = [];
  private turn = 0;

  /** Reads the locker page by page; the first is there to look through while the rest comes. */
  async load(): Promise<void> {
    const mine = ++this.turn;
    try {
      let items: ItemRow[] = [];
      let after: string | undefined;
      do {
        const { data, error } = await api.GET("/api/locker", {
          params: { query: { limit: page, ...(after && { after }) } },
        });
        if (mine !== this.turn) return;
        if (!data) {
          this.trouble = explain(error);
          return;
        }
        items = items.concat(data.items);
        after = data.next;
        this.total = data.total;
        this.revision = data.revision;
        // What was there before stays until all has come: nothing vanishes on the way.
        if (!after || items.length > (this.items?.length ?? 0)) this.take(items);
      } while (after);
      this.trouble = "";
    } catch {
      if (mine === this.turn) this.trouble = explain(null);
    }
  }

  private take(items: ItemRow[]): void {
    const place = (item: ItemRow) => places.get(item.kind) ?? places.size;
    this.items = [...items].sort((a, b) => place(a) - place(b));
    // Made once: searching 5,000 items is then a pass over plain texts.
    this.texts = this.items.map((i) =>
      `${i.name} ${i.serial} ${i.kind} ${i.standing.state}`.toLowerCase(),
    );
  }

  /** Those that hold every word of a search, of the kinds and states asked for. */
  find(search: string, kinds: readonly string[], state = ""): ItemRow[] {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    return (this.items ?? []).filter(
      (item, i) =>
        (kinds.length === 0 || kinds.includes(item.kind)) &&
        (state === "" ||
          (state === "barred" ? item.standing.barred : item.standing.state === state)) &&
        words.every((word) => this.texts[i]?.includes(word)),
    );
  }
}

export const rows = new Rows();
