// Parses files with the grammar of their language, and names what is no part
// of it: node grammar.mjs NODE_MODULES FILE...
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";
import { extname } from "node:path";

const [modules, ...files] = process.argv.slice(2);
const require = createRequire(modules + "/");
const { Parser, Language } = require("web-tree-sitter");
await Parser.init();
const grammars = { ".swift": "swift", ".dart": "dart", ".kt": "kotlin", ".java": "java", ".cs": "c_sharp", ".ts": "typescript", ".cpp": "cpp", ".go": "go" };
let faults = 0;
for (const file of files) {
  const parser = new Parser();
  parser.setLanguage(await Language.load(`${modules}/tree-sitter-wasms/out/tree-sitter-${grammars[extname(file)]}.wasm`));
  const tree = parser.parse(readFileSync(file, "utf8"));
  const visit = (node) => {
    if (node.isError || node.isMissing) {
      faults++;
      console.log(`${file}:${node.startPosition.row + 1}:${node.startPosition.column + 1}: ${node.type} ${node.text.slice(0, 80).replaceAll("\n", " ")}`);
      return;
    }
    if (node.hasError) {
      node.children.forEach(visit);
    }
  };
  visit(tree.rootNode);
}
process.exit(faults === 0 ? 0 : 1);
