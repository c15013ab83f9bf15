/** Something that can be done by name, by a key, or both. */
export interface Command {
  title: string;
  /** As it is shown. */
  key?: string;
  /** The keys that do it, as `pressed` names them. */
  on?: string[];
  /** Also while a button has the focus: keys that buttons have no use for. */
  run: () => void;
}

/** A key press by name: "a", "ctrl+z", "ctrl+shift+z", "alt+arrowup". */
export function pressed(event: KeyboardEvent): string {
  const key = event.key.toLowerCase();
  const control = event.ctrlKey || event.metaKey ? "ctrl+" : "";
  const alt = event.altKey ? "alt+" : "";
  // Shift is in the letter or the sign itself.
  const shift = event.shiftKey && control ? "shift+" : "";
  return `${control}${shift}${alt}${key}`;
}

/** The command of a key press. */
export const commandOf = (commands: Command[], event: KeyboardEvent): Command | undefined =>
  commands.find((c) => c.on?.includes(pressed(event)));
