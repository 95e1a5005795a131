/**
 * Runs functions of a TypeScript module of the interface under node: a JSON list of {call, arguments} on standard
 * input, the list of results on standard output. Modules are transpiled, not type-checked; that is the build's.
 */
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";

const [interfaceFolder, moduleName] = process.argv.slice(2);
const typescript = createRequire(path.join(interfaceFolder, "package.json"))("typescript");
const loaded = new Map();

function load(file) {
  if (loaded.has(file)) return loaded.get(file).exports;
  if (file.endsWith(".json")) return JSON.parse(readFileSync(file, "utf8"));
  const module = { exports: {} };
  loaded.set(file, module);
  const options = { module: typescript.ModuleKind.CommonJS, target: typescript.ScriptTarget.ES2022, esModuleInterop: true };
  const { outputText } = typescript.transpileModule(readFileSync(file, "utf8"), { compilerOptions: options });
  const require_ = (name) => load(path.resolve(path.dirname(file), name.endsWith(".json") ? name : `${name}.ts`));
  new Function("require", "module", "exports", outputText)(require_, module, module.exports);
  return module.exports;
}

const exported = load(path.join(interfaceFolder, "src", moduleName));
const calls = JSON.parse(readFileSync(0, "utf8"));
process.stdout.write(JSON.stringify(calls.map(({ call, arguments: given }) => exported[call](...given))));
