/** Floors of the interface: app > features > pictures | ui > api. Imports go downwards only, and never round. */
const above = (floor, ...higher) => ({
  name: `${floor}-imports-only-downwards`,
  severity: "error",
  from: { path: `^src/${floor}/` },
  to: { path: `^src/(${higher.join("|")})/` },
});

module.exports = {
  forbidden: [
    { name: "no-circles", severity: "error", from: {}, to: { circular: true } },
    { name: "no-circles-between-folders", severity: "error", scope: "folder", from: {}, to: { circular: true } },
    above("api", "ui", "pictures", "features", "app"),
    above("ui", "pictures", "features", "app"),
    above("pictures", "ui", "features", "app"),
    above("features", "app"),
    { name: "no-orphans", severity: "error", from: { orphan: true, pathNot: "\\.(d|test)\\.ts$" }, to: {} },
  ],
  options: { tsConfig: { fileName: "tsconfig.json" }, tsPreCompilationDeps: true, doNotFollow: { path: "node_modules" } },
};
