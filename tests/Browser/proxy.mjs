// A TLS proxy that shows the yard at https://localhost:PORT/garden/: what stands before it in a studio.
//   node proxy.mjs PORT YARD-PORT KEY CERTIFICATE
import { readFileSync } from 'node:fs';
import { request } from 'node:http';
import { createServer } from 'node:https';

const [port, yard, key, cert] = process.argv.slice(2);
const PREFIX = '/garden';

createServer({ key: readFileSync(key), cert: readFileSync(cert) }, (from, to) => {
    if (!from.url.startsWith(PREFIX + '/')) {
        to.writeHead(404).end('There is nothing outside the garden.');
        return;
    }
    const passed = request(
        { host: '127.0.0.1', port: yard, method: from.method, path: from.url.slice(PREFIX.length), headers: { ...from.headers, 'x-forwarded-proto': 'https', 'x-forwarded-prefix': PREFIX } },
        (back) => {
            to.writeHead(back.statusCode, back.headers);
            back.pipe(to);
        },
    );
    passed.on('error', () => to.writeHead(502).end());
    from.pipe(passed);
}).listen(Number(port), '127.0.0.1');
