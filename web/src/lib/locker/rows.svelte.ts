import { api, explain, type ItemRow } from "../api/client";

/** The whole locker in short, as the server last said. */
class Rows {
  items = $state.raw<ItemRow[] | null>(null);
  revision = $state(0);
  trouble = $state("");
  private texts: string[] = [];

  async load(): Promise<void> {
    try {
      const { data, error } = await api.GET("/api/locker");
      if (!data) {
        this.trouble = explain(error);
        return;
      }
      this.trouble = "";
      this.items = data.items;
      this.revision = data.revision;
      // Made once: searching 5,000 items is then a pass over plain texts.
      this.texts = data.items.map((i) =>
        `${i.name} ${i.serial} ${i.kind} ${i.standing.state}`.toLowerCase(),
      );
    } catch {
      this.trouble = explain(null);
    }
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
