import type { Command } from "../commands";

/** A word of the trade, or one of our own, as the core's glossary has it. */
export interface Word {
  word: string;
  also?: string[];
  means: string;
  /** An SVG path in a box of 48 by 32. */
  picture?: string;
  ours?: boolean;
}

let read: Promise<Word[]> | undefined;
/** The glossary, read when it is first asked for. */
export const glossary = (): Promise<Word[]> =>
  (read ??= import("./glossary.json").then((file) => file.default));

/** Whether a word, or another word for it, has all of what was typed in it. */
export const says = (one: Word, typed: string): boolean => {
  const text = [one.word, ...(one.also ?? [])].join(" ").toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((part) => text.includes(part));
};

/** The words as things to be found by name. */
export const asCommands = (words: Word[], open: (word: string) => void): Command[] =>
  words.map((one) => ({
    title: `${one.word}${one.also?.length ? ` (${one.also.join(", ")})` : ""}: what it means`,
    run: () => open(one.word),
  }));
