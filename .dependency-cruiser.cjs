// Who may know whom. Each rule is proved by a bad fixture in tools/fixtures/bad (tools/rules.test.ts).
/** @type {import("dependency-cruiser").IConfiguration} */
module.exports = {
  forbidden: [
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
    {
      name: "core-stands-alone",
      severity: "error",
      comment: "the core imports only itself",
      from: { path: "^packages/core/src", pathNot: "\\.test\\.ts$|/testing/" },
      to: { pathNot: "^packages/core/src" },
    },
    {
      name: "core-areas-by-their-door",
      severity: "error",
      comment: "an area is entered through its index.ts",
      from: { path: "^packages/core/src/([^/]+)/", pathNot: "\\.test\\.ts$|/testing/" },
      to: { path: "^packages/core/src/([^/]+)/", pathNot: ["^packages/core/src/$1/", "/index\\.ts$"] },
    },
    {
      name: "contract-imports-core-only",
      severity: "error",
      from: { path: "^packages/contract/src", pathNot: "\\.test\\.ts$" },
      to: { pathNot: "^packages/(contract|core)/src|node_modules/zod" },
    },
    { name: "web-never-server", severity: "error", from: { path: "^apps/web" }, to: { path: "^apps/server" } },
    { name: "server-never-web", severity: "error", from: { path: "^apps/server" }, to: { path: "^apps/web" } },
    {
      name: "rooms-stand-apart",
      severity: "error",
      comment: "one room of the interface never imports another",
      from: { path: "^apps/web/src/rooms/([^/]+)/" },
      to: { path: "^apps/web/src/rooms/([^/]+)/", pathNot: "^apps/web/src/rooms/$1/" },
    },
    {
      name: "server-rooms-by-their-door",
      severity: "error",
      comment: "on the server only through another room's index.ts",
      from: { path: "^apps/server/src/rooms/([^/]+)/" },
      to: { path: "^apps/server/src/rooms/([^/]+)/", pathNot: ["^apps/server/src/rooms/$1/", "/index\\.ts$"] },
    },
    {
      name: "rooms-by-their-door",
      severity: "error",
      comment: "the rest of the server enters a room by its index.ts; rooms.ts lists what they offer",
      from: { path: "^apps/server/src/", pathNot: "^apps/server/src/rooms(/|\\.ts$)" },
      to: { path: "^apps/server/src/rooms/[^/]+/", pathNot: "/index\\.ts$" },
    },
    {
      name: "sql-in-stores",
      severity: "error",
      comment: "Knex only in db/ and stores",
      from: { path: "^apps/server/src", pathNot: "^apps/server/src/db/|[sS]tore\\.ts$" },
      to: { path: "node_modules/(knex|mysql2)" },
    },
    {
      name: "tests-stay-tests",
      severity: "error",
      from: { pathNot: "\\.test\\.tsx?$|/testing/|/test/|^e2e|^tools" },
      to: { path: "\\.test\\.tsx?$|/testing/|fast-check|@testing-library|jsdom" },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "/dist/|fixtures/bad" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "types", "default"],
      extensions: [".ts", ".tsx", ".mjs", ".js", ".json"],
    },
  },
};
