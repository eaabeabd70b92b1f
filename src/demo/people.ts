export const addressOf = (name: string): string =>
  `${name
    .replace(/^(Captain|Dr|Prof) /, "")
    .normalize("NFD")
    .replace(/[^A-Za-z' -]/g, "")
    .replace(/['’]/g, "")
    .trim()
    .toLowerCase()
    .replace(/\s+/g, ".")}@alderquay.example`;

export const INSTRUCTORS = {
  nav: "Captain Ines Marsh",
  brd: "Tomas Oyelaran",
  pol: "Dr Adaeze Okafor",
} as const;

/** Who helps to mark in Pollinator Ecology, and an examiner from elsewhere who reads what was returned. */
export const ASSISTANT = "Yuna Petrides";
export const OBSERVER = "Prof Laszlo Hemming";

/** One password for all sample people of the demo. */
export const DEMO_PASSWORD = "quiet harbour";

export const ADMINISTRATOR = "Yuki Brandvold";

export const NOOR = "Noor Haldane";

/** Each with the courses taken: n, b, p. */
export const STUDENTS: readonly (readonly [name: string, courses: string])[] = [
  [NOOR, "nbp"],
  ["Amara Delorne-Whitfield", "nb"],
  ["Bao Lindqvist", "np"],
  ["Camila Thornbury", "n"],
  ["Dmitri Aske", "nbp"],
  ["Efua Moorcroft", "bp"],
  ["Farid Kjeldsen", "n"],
  ["Greta Nwosu", "np"],
  ["Hamid Castellane", "b"],
  ["Isolde Fairweather", "nbp"],
  ["Jun Abernathy", "n"],
  ["Keziah Rowden", "p"],
  ["Leif Okonma", "nb"],
  ["Mei-Lin Strand", "bp"],
  ["Nikolai Pellworth", "n"],
  ["Ottoline Diaz", "p"],
  ["Priya Sandoval", "nb"],
  ["Quentin Mbele", "n"],
  ["Rosalind Takahashi", "bp"],
  ["Samir Eastlake", "n"],
  ["Tadhg Villanueva", "np"],
  ["Uma Granlund", "bp"],
  ["Valentin Aghedo", "n"],
  ["Wanjiru Holloway", "p"],
  ["Ximena Bratt", "nb"],
  ["Yusuf Penhallow", "n"],
  ["Zofia Marchetti", "bp"],
  ["Anneke Tremaine", "np"],
  ["Bartholomew Iyer", "n"],
  ["Catalina Osei", "b"],
  ["Daoud Wetherby", "n"],
  ["Elin Karimi", "p"],
  ["Fionnuala Rao", "nb"],
  ["Gideon Salcano", "n"],
  ["Hana Drummond", "p"],
  ["Imran Vestergaard", "b"],
  ["Josefa Lyle", "np"],
  ["Kofi Grünwalder", "n"],
  ["Lucia Harrowgate", "b"],
  ["Mbali Arkwell", "p"],
];
