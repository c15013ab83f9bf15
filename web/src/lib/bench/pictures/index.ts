// The picture of each kind of sum.
import { blank, Scene, type Drawing } from "./canvas";
import { ofCuts } from "./cuts";
import { ofFalls } from "./falls";
import { ofFelling } from "./felling";
import { ofRopes } from "./ropes";
import { ofSystems } from "./systems";
import { ofWood } from "./wood";

const pictures: Record<string, (s: Scene) => Drawing> = {
  ...ofWood,
  ...ofCuts,
  ...ofRopes,
  ...ofFalls,
  ...ofSystems,
  ...ofFelling,
};

export const draw = (s: Scene): Drawing => pictures[s.kind]?.(s) ?? blank();
