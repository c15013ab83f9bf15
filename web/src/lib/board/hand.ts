import { core } from "../core/core.svelte";
import { join, nextPick, remove, shift, split } from "../order/edits";
import { markDown } from "../order/marks";
import { preferences } from "../preferences.svelte";
import type { Session } from "../session/session.svelte";
import type { View } from "./view.svelte";

/** What a hand does to the picks that are chosen. */
export class Hand {
  constructor(
    private readonly session: Session,
    private readonly view: View,
  ) {}

  add = (): void => {
    const { session } = this;
    if (!session.assessment) return;
    const fresh = nextPick(session.job, session.tree, session.treeFigures);
    void session.change((job) => job.picks.push(fresh), [fresh.id]);
  };

  takeOut = (): void => {
    const ids = this.session.chosen;
    if (ids.length) void this.session.change((job) => remove(job, ids));
  };

  move = (by: -1 | 1): void => {
    const ids = this.session.chosen;
    if (ids.length) void this.session.change((job) => shift(job, ids, by));
  };

  split = (): void => {
    const f = this.session.figures;
    if (!f || f.length_m <= 0.2) return;
    const middle = Math.round(((f.from_m + f.to_m) / 2) * 100) / 100;
    let made = "";
    void this.session
      .change((job) => {
        made = split(job, f.id, middle);
      })
      .then((faults) => faults.length === 0 && this.session.choose([made]));
  };

  join = (): void => {
    const id = this.session.pick?.id;
    if (!id) return;
    let joined = false;
    void this.session
      .change((job) => {
        joined = join(job, id);
      })
      .then(() => (this.view.said = joined ? "" : "There is no pick before it on the same wood."));
  };

  toggleDone = (): void => {
    const ids = this.session.chosen;
    const pick = this.session.pick;
    if (pick) void markDown(this.session, ids, !this.session.down.has(pick.id));
  };

  longest = async (): Promise<void> => {
    const pick = this.session.pick;
    if (!pick) return;
    const reply = await core
      .ask(this.session.job, {
        units: preferences.units,
        pick: pick.id,
        ask: "length",
        hold: "limits",
      })
      .catch(() => null);
    const cut = reply?.data?.cut_m;
    if (cut !== undefined && cut !== null) {
      await this.session.changePick(pick.id, (one) => (one.cut_m = cut));
    }
    this.view.said = reply?.data?.reason ?? "The core does not answer.";
  };

  /** The pick so many places further in the order. */
  step = (by: number): void => {
    const next = this.session.job.picks[this.session.index + by];
    if (next) this.session.choose([next.id]);
  };

  rename = (name: string): void => {
    const title = name.trim();
    if (title && title !== this.session.job.name) {
      void this.session.change((job) => {
        job.name = title;
      });
    }
  };
}
