// Formats files of Dart where they are: node format.mjs NODE_MODULES FILE...
import { readFileSync, writeFileSync } from "node:fs";
import { pathToFileURL } from "node:url";

const [modules, ...files] = process.argv.slice(2);
const { format } = await import(pathToFileURL(`${modules}/@wasm-fmt/dart_fmt/dart_fmt_node.js`));
for (const file of files) {
  writeFileSync(file, format(readFileSync(file, "utf8"), file));
}
