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
    return String(Number(value.toPrecision(digits)));
}

export function showVolume(m3: number): string {
    if (m3 >= 0.1) return `${showNumber(m3, 3)} m³`;
    if (m3 >= 1e-4) return `${showNumber(m3 * 1e3, 3)} l`;
    return `${showNumber(m3 * 1e6, 3)} cm³`;
}

export function showLength(m: number): string {
    if (Math.abs(m) >= 1 || m === 0) return `${showNumber(m, 3)} m`;
    if (Math.abs(m) >= 0.01) return `${showNumber(m * 100, 3)} cm`;
    return `${showNumber(m * 1000, 3)} mm`;
}

export function showBytes(n: number): string {
    return n >= 1e6 ? `${showNumber(n / 1e6, 3)} MB` : n >= 1e3 ? `${showNumber(n / 1e3, 3)} kB` : `${n} B`;
}

export function showMass(kg: number): string {
    return kg >= 1 ? `${showNumber(kg, 3)} kg` : `${showNumber(kg * 1000, 3)} g`;
}
