export type Large = "tree" | "plan" | "stump";
export type SideName = "loads" | "pick" | "setup";
export type ViewName = "pick" | "tree" | "order" | "setup";

/** What of the board is open, and how the tree is looked at. */
export class View {
  side = $state<SideName>("loads");
  /** What a phone shows; a desk shows all of them. */
  view = $state<ViewName>("pick");
  /** Bearing that lies to the right on the elevation, degrees. */
  right = $state(90);
  close = $state(false);
  /** What is drawn large. */
  large = $state<Large>("tree");
  keys = $state(false);
  palette = $state(false);
  filling = $state(false);
  wholes = $state(false);
  /** What the board answers to the last command. */
  said = $state("");

  show(which: Large): void {
    this.large = this.large === which ? "tree" : which;
  }

  turn(by: number): void {
    this.right = (this.right + by + 360) % 360;
  }

  showSide(which: SideName): void {
    this.side = which;
    this.view = which === "setup" ? "setup" : "pick";
  }

  showWholes(): void {
    this.filling = false;
    this.wholes = true;
  }

  /** Nothing stands over the board any more. */
  clear(): void {
    this.keys = this.palette = this.filling = this.wholes = false;
  }

  /** Something stands over the board that takes the keys. */
  get covered(): boolean {
    return this.palette || this.filling || this.wholes;
  }
}
