// Judges a GLB by the Khronos validator.
import { readFileSync } from 'node:fs';
import validator from 'gltf-validator';

const bytes = new Uint8Array(readFileSync(process.argv[2]));
try {
    const r = await validator.validateBytes(bytes, { maxIssues: 20 });
    const length = new DataView(bytes.buffer).getUint32(12, true);
    const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
    console.log(JSON.stringify({ errors: r.issues.numErrors, warnings: r.issues.numWarnings, messages: r.issues.messages.slice(0, 5), nodes: json.nodes.length, animations: (json.animations ?? []).length, names: json.nodes.map((n) => n.name) }));
} catch (e) {
    console.log(JSON.stringify({ errors: 1, warnings: 0, messages: [String(e)], nodes: 0, animations: 0, names: [] }));
}
