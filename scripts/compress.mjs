// Writes every built file once compressed by brotli and once by gzip beside it, as small as they get: the server sends
// these as they are. Usage: node compress.mjs FOLDER
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const folder = process.argv[2];
for (const name of readdirSync(folder)) {
	if (!/\.(js|css|svg|json)$/.test(name)) continue;
	const data = readFileSync(join(folder, name));
	const params = { [constants.BROTLI_PARAM_QUALITY]: 11, [constants.BROTLI_PARAM_SIZE_HINT]: data.length };
	for (const [ending, packed] of [["br", brotliCompressSync(data, { params })], ["gz", gzipSync(data, { level: 9 })]]) {
		if (packed.length < data.length) writeFileSync(join(folder, `${name}.${ending}`), packed);
	}
}
