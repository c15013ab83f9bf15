import { goto } from "$app/navigation";
import { resolve } from "$app/paths";
import type { Command } from "../commands";
import { ways } from "../order/edits";
import { preferences } from "../preferences.svelte";
import type { Session } from "../session/session.svelte";
import type { Hand } from "./hand";
import type { View } from "./view.svelte";

const focusCut = () => document.querySelector<HTMLElement>("[data-testid=cut]")?.focus();
const play = () => document.querySelector<HTMLElement>("[data-testid=play]")?.click();

/** What can be done on the board: one list for the keys, the palette and the help. */
export const commandsOf = (session: Session, view: View, hand: Hand): Command[] => [
  { title: "Add a pick", key: "A", on: ["a"], run: hand.add },
  { title: "Fill the order", key: "F", on: ["f"], run: () => (view.filling = true) },
  {
    title: "Whole trees: which first, and the ways of taking one",
    key: "W",
    on: ["w"],
    run: () => (view.wholes = true),
  },
  {
    title: "Longest piece within the limits",
    key: "L",
    on: ["l"],
    run: () => void hand.longest(),
  },
  { title: "Split the pick in two", key: "S", on: ["s"], run: hand.split },
  { title: "Join the pick to the one before", key: "J", on: ["j"], run: hand.join },
  { title: "Take out of the order", key: "Delete", on: ["delete", "backspace"], run: hand.takeOut },
  { title: "Earlier in the order", key: "Alt ↑", on: ["alt+arrowup"], run: () => hand.move(-1) },
  { title: "Later in the order", key: "Alt ↓", on: ["alt+arrowdown"], run: () => hand.move(1) },
  { title: "It is down, or not yet", key: "D", on: ["d"], run: hand.toggleDone },
  { title: "Take the cut in hand", key: "C", on: ["c"], run: focusCut },
  { title: "Run the film", key: "Space", on: [" "], run: play },
  { title: "Turn the tree left", key: "[", on: ["["], run: () => view.turn(-15) },
  { title: "Turn the tree right", key: "]", on: ["]"], run: () => view.turn(15) },
  {
    title: "Close up, or the whole tree",
    key: "Z",
    on: ["z"],
    run: () => (view.close = !view.close),
  },
  {
    title: "The plan as large as the tree, or the tree",
    key: "P",
    on: ["p"],
    run: () => view.show("plan"),
  },
  {
    title: "The stump as large as the tree, or the tree",
    key: "U",
    on: ["u"],
    run: () => view.show("stump"),
  },
  { title: "Show the loads", key: "1", on: ["1"], run: () => view.showSide("loads") },
  {
    title: "Show the pick: way, cut, what if",
    key: "2",
    on: ["2"],
    run: () => view.showSide("pick"),
  },
  {
    title: "Show the setup: stem, limbs, rigs, site, limits",
    key: "3",
    on: ["3"],
    run: () => view.showSide("setup"),
  },
  { title: "Undo", key: "Ctrl Z", on: ["ctrl+z"], run: () => void session.undo() },
  {
    title: "Redo",
    key: "Ctrl Shift Z",
    on: ["ctrl+shift+z", "ctrl+y"],
    run: () => void session.redo(),
  },
  {
    title: "Choose all picks",
    key: "Ctrl A",
    run: () => session.choose(session.job.picks.map((p) => p.id)),
  },
  {
    title: "Survey: a walk round the tree",
    run: () => void goto(resolve("/job/[id]/survey", { id: session.id })),
  },
  {
    title: "Briefing: the paper that goes up the tree",
    run: () => void goto(resolve("/job/[id]/briefing", { id: session.id })),
  },
  {
    title: "On the ground: logs, moving, loads",
    key: "G",
    on: ["g"],
    run: () => void goto(resolve("/job/[id]/ground", { id: session.id })),
  },
  { title: "The locker", run: () => void goto(resolve("/locker")) },
  { title: "The crew’s policy", run: () => void goto(resolve("/policy")) },
  { title: "Switch units", run: () => preferences.switchUnits() },
  { title: "Switch the theme", run: () => preferences.switchTheme() },
  {
    title: "Everything by name",
    key: "Ctrl K",
    on: ["ctrl+k", "/"],
    run: () => (view.palette = !view.palette),
  },
  { title: "These keys", key: "?", on: ["?"], run: () => (view.keys = !view.keys) },
];

/** The picks as places to go to. */
export const placesOf = (session: Session): Command[] =>
  session.job.picks.map((p, i) => ({
    title: `Go to pick ${i + 1}: ${session.assessment?.picks[i]?.title ?? p.id}, ${ways()[p.way]}`,
    run: () => session.choose([p.id]),
  }));
