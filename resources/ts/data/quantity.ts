const UNITS: Record<string, Record<string, number>> = {
    m: { m: 1, cm: 0.01, mm: 0.001, km: 1000, in: 0.0254, ft: 0.3048 },
    'm/s': { 'm/s': 1, 'km/h': 1 / 3.6, 'cm/s': 0.01 },
    '°': { '°': 1, deg: 1, rad: 180 / Math.PI },
    'kg/m³': { 'kg/m³': 1, 'kg/m3': 1, 'g/cm³': 1000, 'g/cm3': 1000 },
};

/** Reads a number, a simple sum (`1/24`, `2*3+1`) or a value with a unit (`12 cm`). Null where it is none. */
export function readNumber(text: string, unit: string): number | null {
    let rest = text.trim().toLowerCase().replace(/,(?=\d)/g, '.');
    let factor = 1;
    const known = UNITS[unit] ?? {};
    for (const name of Object.keys(known).sort((a, b) => b.length - a.length)) {
        if (rest.endsWith(name) && /[\d)\s]$/.test(rest.slice(0, -name.length))) {
            rest = rest.slice(0, -name.length).trim();
            factor = known[name]!;
            break;
        }
    }
    if (unit === '%' && rest.endsWith('%')) rest = rest.slice(0, -1).trim();
    const value = sum(rest);
    return value === null || !Number.isFinite(value) ? null : value * factor;
}

/** A recursive descent over + − × ÷ and brackets. */
function sum(text: string): number | null {
    const tokens = text.match(/\d+\.?\d*(?:e[+-]?\d+)?|\.\d+|[-+*/()]/g) ?? [];
    if (tokens.join('') !== text.replace(/\s+/g, '')) return null;
    let at = 0;
    const atom = (): number => {
        const t = tokens[at++];
        if (t === '-') return -atom();
        if (t === '+') return atom();
        if (t === '(') {
            const v = add();
            return tokens[at++] === ')' ? v : NaN;
        }
        return t === undefined || /^[*/)]$/.test(t) ? NaN : Number(t);
    };
    const times = (): number => {
        let v = atom();
        while (tokens[at] === '*' || tokens[at] === '/') v = tokens[at++] === '*' ? v * atom() : v / atom();
        return v;
    };
    const add = (): number => {
        let v = times();
        while (tokens[at] === '+' || tokens[at] === '-') v = tokens[at++] === '+' ? v + times() : v - times();
        return v;
    };
    const value = add();
    return at === tokens.length && !Number.isNaN(value) ? value : null;
}

/** A number as short as it can be at the given precision. */
export function showNumber(value: number, digits = 4): string {
    if (Number.isInteger(value) && Math.abs(value) < 1e7) return String(value);
    const short = Number(value.toPrecision(digits));
    // Powers of ten are for machines, unless nothing else is short.
    return Math.abs(short) >= 1e21 || (short !== 0 && Math.abs(short) < 1e-6) ? String(short) : short.toLocaleString('en', { useGrouping: false, maximumSignificantDigits: digits });
}

/** Names of a unit's multiples, the largest first, with how many of the unit each holds. */
const MULTIPLES: Record<string, readonly (readonly [number, string])[]> = {
    m: [[1e3, 'km'], [1, 'm'], [1e-2, 'cm'], [1e-3, 'mm'], [1e-6, 'µm']],
    'm²': [[1e6, 'km²'], [1, 'm²'], [1e-4, 'cm²'], [1e-6, 'mm²']],
    'm³': [[1, 'm³'], [1e-3, 'l'], [1e-6, 'cm³'], [1e-9, 'mm³']],
    kg: [[1e3, 't'], [1, 'kg'], [1e-3, 'g'], [1e-6, 'mg']],
    J: [[1e9, 'GJ'], [1e6, 'MJ'], [1e3, 'kJ'], [1, 'J'], [1e-3, 'mJ'], [1e-6, 'µJ']],
    s: [[60, 'min'], [1, 's'], [1e-3, 'ms'], [1e-6, 'µs']],
    'm/s': [[1e3, 'km/s'], [1, 'm/s'], [1e-2, 'cm/s'], [1e-3, 'mm/s']],
    B: [[1e9, 'GB'], [1e6, 'MB'], [1e3, 'kB'], [1, 'B']],
};

/** From how many of a multiple on it is used; a tenth of a cubic metre is no longer said in litres. */
const FROM: Record<string, number> = { 'm³': 0.1, l: 0.1, min: 2 };

/** A quantity with the multiple of its unit that keeps the figure short: 170 kJ, 3.2 mm, 41 g. */
export function show(value: number, unit: string, digits = 3): string {
    const [size, name] = multipleOf(Math.abs(value), unit);
    return `${showNumber(value / size, digits)}${name === '' ? '' : ` ${name}`}`;
}

/** Several quantities with one multiple, that of the largest: 0.5 × 0.25 × 1 m. */
export function showAll(values: readonly number[], unit: string, between = ' × ', digits = 3): string {
    const [size, name] = multipleOf(Math.max(...values.map(Math.abs)), unit);
    return `${values.map((v) => showNumber(v / size, digits)).join(between)}${name === '' ? '' : ` ${name}`}`;
}

/** How much of the unit the fitting multiple holds, and what it is called. */
export function multipleOf(value: number, unit: string): readonly [number, string] {
    const all = MULTIPLES[unit] ?? [[1, unit]];
    if (value === 0) return all.find(([size]) => size === 1)!;
    // What would be rounded up to the next multiple belongs there.
    return all.find(([size, name]) => value * (1 + 5e-4) >= size * (FROM[name] ?? 1)) ?? all[all.length - 1]!;
}
