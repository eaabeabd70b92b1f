const arrows = require("./tools/lib/arrows.json");
/** The rooms within a room, in order: each may import those that stand before it. */
const rooms = require("./tools/lib/rooms.json");

const CORE_LIBRARIES = ["yup", "fraction\\.js", "mathjs", "date-fns", "@date-fns/tz"];

module.exports = {
  forbidden: [
    ...Object.entries(arrows).map(([from, to]) => ({
      name: `arrow-from-${from}`,
      severity: "error",
      from: { path: `^src/${from}/`, pathNot: "\\.test\\.tsx?$" },
      to: { path: "^src/", pathNot: `^src/(${to.join("|")})/` },
    })),
    ...Object.entries(rooms).flatMap(([house, order]) =>
      order.slice(0, -1).map((room, i) => ({
        name: `order-of-${house}-${room}`,
        severity: "error",
        from: { path: `^src/${house}/${room}/`, pathNot: "\\.test\\.tsx?$" },
        to: { path: `^src/${house}/(${order.slice(i + 1).join("|")})/` },
      })),
    ),
    {
      name: "demo-on-demand",
      comment:
        "The demo is loaded where it is asked for, and is no part of what an installation without it loads.",
      severity: "error",
      from: { path: "^src/", pathNot: "^src/demo/|\\.test\\.tsx?$" },
      to: { path: "^src/demo/", dependencyTypesNot: ["dynamic-import"] },
    },
    {
      name: "core-is-pure",
      comment: "The core uses nothing but itself and its few libraries: no I/O, no clock, no interface.",
      severity: "error",
      from: { path: "^src/core/", pathNot: "\\.test\\.tsx?$" },
      to: { pathNot: `^(src/core/|node_modules/(${CORE_LIBRARIES.join("|")})/)` },
    },
    {
      name: "no-circles",
      severity: "error",
      from: {},
      to: { circular: true },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
