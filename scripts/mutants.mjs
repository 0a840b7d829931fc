// Prints, for one package, the share of the covered mutants that the tests killed, and where the others live.
import { readFileSync } from "node:fs";

const [file, name] = process.argv.slice(2);
const found = JSON.parse(readFileSync(file, "utf8")).files.flatMap((f) => (f.mutations ?? []).map((m) => ({ ...m, file: f.file_name })));
const of = (status) => found.filter((m) => m.status === status);
const covered = of("KILLED").length + of("LIVED").length + of("TIMED OUT").length;
const share = covered === 0 ? 100 : (100 * of("KILLED").length) / covered;
console.log(`${name}: ${of("KILLED").length} of ${covered} covered mutants killed (${share.toFixed(0)} %), ${of("TIMED OUT").length} timed out, ${of("NOT COVERED").length} not covered`);
for (const m of [...of("LIVED"), ...of("TIMED OUT")]) console.log(`  ${m.status.toLowerCase()}: ${m.file}:${m.line}:${m.column} ${m.type}`);
