import type { ItemRow, Job, Rig } from "../../api/client";
import { assign } from "../../session/path";
import type { Session } from "../../session/session.svelte";

/** What every part of a rig is given: the rig, and where it stands in the document. */
export interface PartProps {
  session: Session;
  rig: Rig;
  at: string;
}

/** Changes of one rig, found by its id wherever it stands. */
export class RigEdits {
  constructor(private readonly props: () => PartProps) {}

  change(mutate: (rig: Rig, job: Job) => void): void {
    const { session, rig } = this.props();
    void session.change((job) => {
      const one = job.rigs.find((r) => r.id === rig.id);
      if (one) mutate(one, job);
    });
  }

  /** Writes what is chosen to a part of the rig. */
  choose(part: string): (value: string) => void {
    return (value) => {
      const { session, at } = this.props();
      void session.change((job) => assign(job, `${at}.${part}`, value));
    };
  }

  /** Takes an item of the locker for a part of the rig, or none. */
  take(part: string): (item: ItemRow | null) => void {
    return (item) => {
      const { session, at } = this.props();
      void session.take((job) => assign(job, `${at}.${part}.item`, item?.id));
    };
  }
}
