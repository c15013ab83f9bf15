import { api, type Crew } from "../api/client";
import { itemsOf, today } from "./items";

const slot = "elkstay.crew";

/**
 * The crew's rules and the gear that the open jobs refer to, as the server keeps them. The
 * last that was heard of them stays on this device, for where there is no signal.
 */
class CrewAtHand {
  /** Null until the server, or what this device kept, has said. */
  crew = $state.raw<Crew | null>(null);
  private asked: string[] = [];
  private fetching: Promise<void> | null = null;

  /** Makes sure that the gear a document refers to is at hand. */
  async ready(document: unknown): Promise<Crew | null> {
    const wanted = [...itemsOf(document)].filter((id) => !this.asked.includes(id));
    if (wanted.length || !this.crew) {
      this.asked.push(...wanted);
      await this.refresh();
    }
    return this.crew && { ...this.crew, on: today() };
  }

  /** Asks the server anew. */
  async refresh(): Promise<void> {
    const before = this.fetching;
    const next = (async () => {
      await before;
      try {
        const { data } = await api.GET("/api/crew", {
          params: { query: { items: this.asked } },
        });
        if (data) this.keep(data);
      } catch {
        this.crew ??= this.recall();
      }
    })();
    this.fetching = next;
    await next;
  }

  private keep(crew: Crew): void {
    this.crew = crew;
    try {
      localStorage.setItem(slot, JSON.stringify(crew));
    } catch {
      // A browser that keeps nothing asks again the next time.
    }
  }

  private recall(): Crew | null {
    try {
      const kept = localStorage.getItem(slot);
      return kept ? (JSON.parse(kept) as Crew) : null;
    } catch {
      return null;
    }
  }
}

export const crew = new CrewAtHand();
