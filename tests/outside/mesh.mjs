// Prints the mesh of a package as OBJ, in JSON.
import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);
const name = process.argv[2];
let mesh = require(name);
if (typeof mesh === 'function') mesh = mesh();
const obj = [...mesh.positions.map((p) => `v ${p.join(' ')}`), ...mesh.cells.map((c) => `f ${c.map((i) => i + 1).join(' ')}`)].join('\n');
console.log(JSON.stringify({ obj }));
