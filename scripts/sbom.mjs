// What is shipped, as a bill of materials in the open format CycloneDX 1.5.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";

/** Licences that may be shipped under: permissive ones, and file-level copyleft whose files we do not change. */
const ALLOWED = new Set([
  "0BSD",
  "Apache-2.0",
  "Apache-2.0 WITH LLVM-exception",
  "BSD-1-Clause",
  "BSD-2-Clause",
  "BSD-3-Clause",
  "BSL-1.0",
  "CC0-1.0",
  "CDLA-Permissive-2.0",
  "ISC",
  "MIT",
  "MIT-0",
  "MPL-2.0",
  "OFL-1.1",
  "Unicode-3.0",
  "Unicode-DFS-2016",
  "Unlicense",
  "WTFPL",
  "Zlib",
]);

/** True where an SPDX expression can be met by allowed licences alone. */
export function isAllowed(expression) {
  const tokens = expression.replace(/\//g, " OR ").match(/\(|\)|AND|OR|[^\s()]+(?: WITH [^\s()]+)?/g) ?? [];
  let at = 0;
  const one = () => {
    if (tokens[at] === "(") {
      at += 1;
      const inner = either();
      at += 1;
      return inner;
    }
    return ALLOWED.has(tokens[at++]);
  };
  const all = () => {
    let fits = one();
    while (tokens[at] === "AND") {
      at += 1;
      fits = one() && fits;
    }
    return fits;
  };
  const either = () => {
    let fits = all();
    while (tokens[at] === "OR") {
      at += 1;
      fits = all() || fits;
    }
    return fits;
  };
  return tokens.length > 0 && either() && at === tokens.length;
}

/** Crates that end up in the binary: what `lumbo` needs, and what that needs, without tools of tests and builds. */
function crates() {
  const text = execFileSync("cargo", ["metadata", "--format-version", "1", "--locked"], {
    maxBuffer: 256 * 1024 * 1024,
    stdio: ["ignore", "pipe", "ignore"],
  });
  const metadata = JSON.parse(text);
  const packages = new Map(metadata.packages.map((each) => [each.id, each]));
  const nodes = new Map(metadata.resolve.nodes.map((node) => [node.id, node]));
  const begin = metadata.packages.find((each) => each.name === "lumbo" && each.source === null);
  const seen = new Set();
  const look = [begin.id];
  while (look.length > 0) {
    const id = look.pop();
    if (seen.has(id)) continue;
    seen.add(id);
    for (const { pkg, dep_kinds: kinds } of nodes.get(id).deps) {
      // What is compiled for other systems only is not shipped.
      const shipped = kinds.some(({ kind, target }) => kind === null && !/windows|wasm|hermit|wasi|macos/.test(target ?? ""));
      if (shipped) look.push(pkg);
    }
  }
  return [...seen]
    .map((id) => packages.get(id))
    .filter((each) => each.source !== null)
    .map(({ name, version, license }) => ({ name, version, license, purl: `pkg:cargo/${name}@${version}` }));
}

/** npm packages that the pages bring along: what web needs, and what that needs. */
function npmPackages() {
  const { packages } = JSON.parse(readFileSync("package-lock.json", "utf8"));
  // A package is looked for beside the one that needs it, and then further up.
  const placed = (from, name) => {
    for (let at = from; ; at = at.includes("/node_modules/") ? at.slice(0, at.lastIndexOf("/node_modules/")) : "") {
      const path = `${at}${at && "/"}node_modules/${name}`;
      if (packages[path]) return path;
      if (at === "") return null;
    }
  };
  const seen = new Set();
  const look = Object.keys(packages.web.dependencies).map((name) => placed("web", name));
  while (look.length > 0) {
    const path = look.pop();
    if (path === null || seen.has(path)) continue;
    seen.add(path);
    look.push(...Object.keys(packages[path].dependencies ?? {}).map((name) => placed(path, name)));
  }
  return [...seen].map((path) => {
    const { version, license } = packages[path];
    const name = path.slice(path.lastIndexOf("node_modules/") + "node_modules/".length);
    return { name, version, license, purl: `pkg:npm/${name.replace("@", "%40")}@${version}` };
  });
}

const found = [...crates(), ...npmPackages()].sort((one, other) => (one.purl < other.purl ? -1 : 1));
const listed = [...new Map(found.map((each) => [each.purl, each])).values()];
if (process.argv.includes("--check")) {
  const wrong = listed.filter(({ license }) => !license || !isAllowed(license));
  for (const { purl, license } of wrong) console.error(`${purl}: ${license ?? "no licence"} is not one that was looked at`);
  if (listed.length < 100) throw new Error(`only ${listed.length} packages were found`);
  if (wrong.length > 0) process.exit(1);
  console.log(`${listed.length} packages, every licence looked at`);
} else {
  const component = ({ name, version, license, purl }) => ({
    type: "library",
    name,
    version,
    purl,
    licenses: [{ expression: (license ?? "NOASSERTION").replace(/\//g, " OR ") }],
  });
  const document = {
    bomFormat: "CycloneDX",
    specVersion: "1.5",
    version: 1,
    metadata: { component: { type: "application", name: "lumbo" } },
    components: listed.map(component),
  };
  console.log(JSON.stringify(document, null, 1));
}
