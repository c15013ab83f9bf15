// The picture of each kind of sum.
import { blank, Scene, type Drawing } from "./canvas";
import { ofFelling } from "./felling";
import { ofRopes } from "./ropes";
import { ofWood } from "./wood";

const pictures: Record<string, (s: Scene) => Drawing> = { ...ofWood, ...ofRopes, ...ofFelling };

export const draw = (s: Scene): Drawing => pictures[s.kind]?.(s) ?? blank();
