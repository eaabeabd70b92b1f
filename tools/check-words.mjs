import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { convertToTSX } from "@astrojs/compiler";
import { compileMessage } from "@lingui/message-utils/compileMessage";
import ts from "typescript";
import { ROOT } from "./lib/steps.mjs";

/**
 * Checks the words of the interface: that each key that is used is in the catalogue, and each one there is used; that every
 * language has the same keys with the same values in them; and that no words stand outside the catalogue. What is meant
 * (a code with its values) is never put into a text as it is.
 */
const LANGUAGES = "src/words/languages";
/** Where a key is put together, what comes before its last part; the rest is looked up when it is said. */
const MADE = ["time.", "units.", "joined."];
/** Strings that are no words of the interface, where they look like some. */
const allowed = JSON.parse(readFileSync(join(ROOT, "tools/lib/words-allowed.json"), "utf8"));
const mistakes = [];
const files = execFileSync("git", ["ls-files", "-co", "--exclude-standard", "src"], {
  cwd: ROOT,
  encoding: "utf8",
})
  .split("\n")
  .filter((file) => /\.(ts|tsx|astro)$/.test(file) && !/\.test\.tsx?$/.test(file));

/** A file as TypeScript: of a page its frontmatter and its template, each with the line at which it begins. */
function pieces(file) {
  const text = readFileSync(join(ROOT, file), "utf8");
  if (!file.endsWith(".astro")) return [{ text, line: 0 }];
  const head = /^---\n([\s\S]*?)\n---\n?/.exec(text);
  const before = head ? head[0] : "";
  const body = text.slice(before.length).replace(/^\s*<!doctype html>/i, "");
  // Scripts and styles say nothing to people; their lines stay, for the numbers of those that follow.
  const template = body.replace(/<(script|style)[^>]*>[\s\S]*?<\/\1>/g, (found) =>
    found.replace(/[^\n]/g, ""),
  );
  return [
    ...(head ? [{ text: head[1], line: 1 }] : []),
    { text: `<>${template}</>`, line: before.split("\n").length - 1 },
  ];
}

// Which keys are used, and which words stand outside.

const used = new Set();
/** What each call puts into its message. */
const given = [];
const stems = new Set(MADE);
const CALLS = new Set(["t", "said"]);
/** Where words are said to people: everywhere but in the database, the demo, and what only the log and starting say. */
const SAYS = /^src\/(core|islands|pages|server|ui|cli)\//;
const SILENT_CALLS = /^(log\.\w+|note|new Error|new RangeError|new TypeError)$/;
const SILENT_NAMES = new Set([
  "className",
  "class",
  "class:list",
  "href",
  "type",
  "role",
  "id",
  "rel",
  "name",
  "action",
  "subject",
  "method",
  "key",
  "kind",
  "d",
  "style",
  "value",
  "for",
  "viewBox",
  "transform",
  "autocomplete",
  "autoComplete",
  "src",
  "lang",
  "print",
]);

/** Whether it is said while a module of the server or the core is loaded, and not when somebody asks. */
function isFixedAtImport(node, source) {
  if (!/^src\/(server|core)\//.test(source.fileName)) return false;
  for (let around = node.parent; around; around = around.parent) {
    if (isPartOfShape(around, source)) return true;
    if (ts.isFunctionLike(around) && !isShapeMaker(around, source)) return false;
  }
  return true;
}

const SHAPE_RULES =
  /\.(required|min|max|length|matches|test|oneOf|notOneOf|integer|positive|email|uuid|defined|nonNullable|typeError)$/;
const isPartOfShape = (node, source) =>
  ts.isCallExpression(node) &&
  ts.isPropertyAccessExpression(node.expression) &&
  SHAPE_RULES.test(node.expression.getText(source)) &&
  /^yup\s*\./.test(node.expression.getText(source));
/** A function that makes a shape is called while its module is loaded. */
const isShapeMaker = (node, source) =>
  ts.isArrowFunction(node) && /^yup\s*\./.test(node.body.getText(source));

const isProse = (text) => {
  const plain = text.trim();
  const words = plain.split(/\s+/).filter((word) => /^[“"(]?[A-Za-z][a-z’']*[.,:;!?”)"]*$/.test(word));
  return (
    words.length >= 3 ||
    (words.length === 2 && /^[A-Z]/.test(plain) && words.length === plain.split(/\s+/).length)
  );
};

for (const file of files) {
  for (const { text, line } of pieces(file)) {
    const source = ts.createSourceFile(
      file,
      text,
      ts.ScriptTarget.Latest,
      true,
      file.endsWith(".ts") ? ts.ScriptKind.TS : ts.ScriptKind.TSX,
    );
    const at = (node) =>
      `${file}:${source.getLineAndCharacterOfPosition(node.getStart(source)).line + line + 1}`;
    const outside = (node, words) => {
      if (!SAYS.test(file) || !isProse(words) || allowed.some((part) => words.includes(part))) return;
      mistakes.push(`${at(node)} words outside the catalogue: ${words.trim().slice(0, 80)}`);
    };
    const visit = (node, silent) => {
      if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return;
      let quiet = silent;
      if (ts.isCallExpression(node) || ts.isNewExpression(node)) {
        const name = `${ts.isNewExpression(node) ? "new " : ""}${node.expression.getText(source)}`;
        if (SILENT_CALLS.test(name)) quiet = true;
        if (CALLS.has(name)) {
          const [key, values] = node.arguments ?? [];
          keysOf(key, node);
          givenBy(key, values, node);
          if (name === "t" && isFixedAtImport(node, source))
            mistakes.push(`${at(node)} is said when its module is loaded, in whichever language that is`);
        }
      }
      if (ts.isTaggedTemplateExpression(node)) quiet = true;
      if (
        (ts.isJsxAttribute(node) || ts.isPropertyAssignment(node)) &&
        SILENT_NAMES.has(node.name.getText(source))
      )
        quiet = true;
      if (!quiet) {
        if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) outside(node, node.text);
        if (ts.isJsxText(node) && /[A-Za-z]{2}/.test(node.text.replace(/&\w+;/g, ""))) {
          if (SAYS.test(file) && !allowed.some((part) => node.text.includes(part)))
            mistakes.push(`${at(node)} words outside the catalogue: ${node.text.trim().slice(0, 80)}`);
        }
        if (ts.isTemplateExpression(node) && /^[a-z]{3,}: $/i.test(node.head.text))
          outside(node, `${node.head.text} and what follows it`);
        // One word between two figures is a sentence too: “2 of 3”.
        if (
          ts.isTemplateExpression(node) &&
          SAYS.test(file) &&
          node.templateSpans.some(({ literal }) =>
            /^ (of|and|or|to|from|until|by|in|at) $/.test(literal.text),
          ) &&
          !allowed.some((part) => node.getText(source).includes(part))
        )
          mistakes.push(`${at(node)} words outside the catalogue: ${node.getText(source).slice(0, 80)}`);
        if (ts.isTemplateExpression(node))
          outside(node, [node.head.text, ...node.templateSpans.map(({ literal }) => literal.text)].join(" "));
      }
      ts.forEachChild(node, (child) => visit(child, quiet));
    };
    const keysOf = (node, call) => {
      if (!node) return;
      if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) used.add(node.text);
      else if (ts.isConditionalExpression(node)) {
        keysOf(node.whenTrue, call);
        keysOf(node.whenFalse, call);
      } else if (ts.isTemplateExpression(node)) stems.add(node.head.text);
      else if (ts.isParenthesizedExpression(node)) keysOf(node.expression, call);
    };
    // A word that is put into a message as a value stays in its language.
    const wordsIn = (value, call) => {
      if (ts.isStringLiteral(value) && /[A-Za-z]{2}/.test(value.text))
        mistakes.push(`${at(call)} puts “${value.text}” into a message: words stand in the catalogue`);
      if (ts.isConditionalExpression(value)) {
        wordsIn(value.whenTrue, call);
        wordsIn(value.whenFalse, call);
      }
      if (ts.isBinaryExpression(value)) wordsIn(value.right, call);
    };
    const givenBy = (key, values, call) => {
      if (!key || !ts.isStringLiteral(key)) return;
      if (values && !ts.isObjectLiteralExpression(values)) return;
      const properties = values?.properties ?? [];
      if (properties.some((each) => ts.isSpreadAssignment(each))) return;
      for (const each of properties) {
        if (ts.isPropertyAssignment(each) && SAYS.test(file)) wordsIn(each.initializer, call);
      }
      given.push({
        key: key.text,
        names: new Set(properties.map((each) => each.name.getText(source))),
        at: at(call),
      });
    };
    visit(source, false);
  }
}

// The languages.

const languages = new Map(
  execFileSync("git", ["ls-files", "-co", "--exclude-standard", LANGUAGES], { cwd: ROOT, encoding: "utf8" })
    .split("\n")
    .filter(Boolean)
    .map((file) => [file.replace(/^.*\/|\.json$/g, ""), JSON.parse(readFileSync(join(ROOT, file), "utf8"))]),
);
const english = languages.get("en");
/** What is said by more than a message (src/words/forms.ts). */
const forms = new Set(
  [...readFileSync(join(ROOT, "src/words/forms.ts"), "utf8").matchAll(/^ {2}"([\w.-]+)":/gm)].map(
    ([, code]) => code,
  ),
);
/** What is read from the files themselves, and said by the forms. */
const READ = /^(language|joint|time)\./;

for (const key of used) {
  if (!(key in english) && !forms.has(key))
    mistakes.push(`“${key}” is used and is not in ${LANGUAGES}/en.json`);
}
for (const key of Object.keys(english)) {
  if (used.has(key) || READ.test(key) || [...stems].some((stem) => key.startsWith(stem))) continue;
  // Said with a code that a shape holds: input.not-valid, ...
  if (key.startsWith("input.")) continue;
  mistakes.push(`“${key}” is in the catalogue and nothing says it`);
}

/** The names of what stands in a message. */
function namesIn(message) {
  const names = new Set();
  const look = (part) => {
    if (!Array.isArray(part)) return;
    if (
      typeof part[0] === "string" &&
      !/^\s*$/.test(part[0]) &&
      part.length <= 3 &&
      part.every((each, i) => i === 0 || typeof each !== "number")
    ) {
      if (part.length === 1 || typeof part[1] === "string") names.add(part[0]);
    }
    for (const each of part) {
      if (Array.isArray(each)) look(each);
      else if (typeof each === "object" && each !== null)
        for (const value of Object.values(each)) if (Array.isArray(value)) value.forEach(look);
    }
  };
  const compiled = compileMessage(message);
  if (Array.isArray(compiled)) compiled.forEach(look);
  return names;
}

for (const { key, names, at } of given) {
  if (!(key in english) || forms.has(key)) continue;
  const asked = namesIn(english[key]);
  for (const name of asked) {
    if (!names.has(name)) mistakes.push(`${at} “${key}” says {${name}}, which is not given`);
  }
  for (const name of names) {
    if (!asked.has(name)) mistakes.push(`${at} “${key}” is given {${name}}, which it does not say`);
  }
}

for (const [language, messages] of languages) {
  for (const key of Object.keys(english)) {
    if (!(key in messages)) mistakes.push(`${language} lacks “${key}”`);
  }
  for (const [key, message] of Object.entries(messages)) {
    if (!(key in english)) {
      mistakes.push(`${language} has “${key}”, which English has not`);
      continue;
    }
    try {
      const [here, there] = [namesIn(message), namesIn(english[key])];
      for (const name of here) {
        if (!there.has(name)) mistakes.push(`${language} “${key}” says {${name}}, which English does not`);
      }
    } catch (error) {
      mistakes.push(`${language} “${key}” cannot be read: ${error.message}`);
    }
  }
}

// What is meant is never put into a text as it is.

const config = ts.getParsedCommandLineOfConfigFile(
  join(ROOT, "tsconfig.json"),
  {},
  { ...ts.sys, onUnRecoverableConfigFileDiagnostic() {} },
);
/** Pages as TypeScript, as their compiler sees them: each beside its own file. */
const pages = new Map(
  await Promise.all(
    files
      .filter((file) => file.endsWith(".astro"))
      .map(async (file) => {
        const { code } = await convertToTSX(readFileSync(join(ROOT, file), "utf8"), { filename: file });
        return [join(ROOT, `${file}.tsx`), code];
      }),
  ),
);
const host = ts.createCompilerHost(config.options);
const { readFile, fileExists, getSourceFile } = host;
host.fileExists = (file) => pages.has(file) || fileExists.call(host, file);
host.readFile = (file) => pages.get(file) ?? readFile.call(host, file);
host.getSourceFile = (file, ...terms) =>
  pages.has(file)
    ? ts.createSourceFile(file, pages.get(file), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX)
    : getSourceFile.call(host, file, ...terms);
const program = ts.createProgram([...config.fileNames, ...pages.keys()], config.options, host);
const checker = program.getTypeChecker();
const isCoded = (type) =>
  type.isUnion?.()
    ? type.types.some(isCoded)
    : type.aliasSymbol?.name === "Coded" && type.getProperty("code") !== undefined;
const holdsCoded = (type) =>
  type.isUnion?.()
    ? type.types.some(holdsCoded)
    : (checker.isArrayType(type) || checker.isTupleType(type)) &&
      checker.getTypeArguments(type).some(isCoded);
for (const source of program.getSourceFiles()) {
  const file = source.fileName.slice(ROOT.length + 1);
  if (!file.startsWith("src/") || /\.test\.tsx?$/.test(file)) continue;
  const visit = (node) => {
    const call = ts.isCallExpression(node) ? node.expression : undefined;
    const isPut =
      (ts.isTemplateSpan(node) && isCoded(checker.getTypeAtLocation(node.expression))) ||
      (call &&
        ts.isPropertyAccessExpression(call) &&
        call.name.text === "join" &&
        holdsCoded(checker.getTypeAtLocation(call.expression)));
    // React says itself that it takes none; a page would write it down as an object.
    const isShown =
      ts.isJsxExpression(node) &&
      pages.has(source.fileName) &&
      node.expression !== undefined &&
      !ts.isJsxAttribute(node.parent) &&
      isCoded(checker.getTypeAtLocation(node.expression));
    if (isPut || isShown) {
      const { line } = source.getLineAndCharacterOfPosition(node.getStart());
      mistakes.push(
        `${file}:${line + 1} puts what is meant into a text as it is: ${node.getText().slice(0, 80)}`,
      );
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
}

for (const mistake of mistakes) console.error(mistake);
console.log(`${Object.keys(english).length} keys, ${languages.size} languages, ${mistakes.length} mistakes.`);
process.exitCode = mistakes.length > 0 ? 1 : 0;
