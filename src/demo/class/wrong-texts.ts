/** What people write who do not know it, by question or gap. */
const TEXTS: Readonly<Record<string, readonly string[]>> = {
  fl: ["fixed", "floating", "flood"],
  "b-lee": ["drift", "deviation", "set", "heel"],
  buzz: ["vibration", "shaking", "wing pollination"],
  where: ["petals", "sepals", "stigma"],
  crop: ["stomach", "sac", "mouth"],
  hat: ["square", "circle"],
  early: ["honeybee", "bumblebee", "wasp"],
  leaf: ["caterpillar", "solitary bee", "mason bee"],
  buff: ["Bombus lucorum", "Bombus"],
  red: ["Bombus rufus", "Bombus terrestris"],
  carder: ["Bombus muscorum", "Bombus agrorum"],
  garden: ["Bombus terrestris"],
  honey: ["Apis", "Apis melifica", "Bombus mellifera"],
  mason: ["Osmia", "Osmia rubra"],
};

/** What is written for a question by who does not know it; nothing where nothing comes to mind. */
export const wrongTextsOf = (id: string): readonly string[] => TEXTS[id] ?? [];
