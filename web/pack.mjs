/** Packs the built files once (brotli and gzip, as small as they get), so that no request has to wait for it. */
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const TEXT = /\.(js|css|html|svg|json|webmanifest|wasm|ttf)$/;
/** What is larger takes minutes to get as small as it can (bytes). */
const LARGE = 4_000_000;

for (const entry of readdirSync("dist", { recursive: true, withFileTypes: true })) {
  if (!entry.isFile() || !TEXT.test(entry.name)) continue;
  const path = join(entry.parentPath, entry.name);
  const plain = readFileSync(path);
  if (plain.length < 1000) continue;
  const params = {
    [constants.BROTLI_PARAM_QUALITY]: plain.length > LARGE ? 7 : 11,
    [constants.BROTLI_PARAM_SIZE_HINT]: plain.length,
  };
  writeFileSync(`${path}.br`, brotliCompressSync(plain, { params }));
  writeFileSync(`${path}.gz`, gzipSync(plain, { level: 9 }));
}
