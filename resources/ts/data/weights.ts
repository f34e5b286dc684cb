import type { Catalogue, Entry } from './api';
import type { Prop, ShotDocument, WeightLimit, WeightMap, WeightSource } from './document';
import { free, freeAmong, idOf } from './make';
import { defaultsOf } from './options';

/** How a source changes what those before it made: as a sign, and in words. */
export const OPERATIONS = {
    add: { sign: '+', words: 'add' },
    subtract: { sign: '−', words: 'subtract' },
    multiply: { sign: '×', words: 'multiply' },
    larger: { sign: '∨', words: 'the larger' },
    smaller: { sign: '∧', words: 'the smaller' },
    replace: { sign: '=', words: 'replace' },
} as const;

export type Operation = keyof typeof OPERATIONS;

/** What a source is called, with what it is measured to or where it is from. */
export function sourceName(source: WeightSource | WeightLimit, document: ShotDocument, catalogue: Catalogue): { name: string; of: string } {
    const name = catalogue.weights[source.source]?.label ?? source.source;
    const values = source.values as Record<string, unknown>;
    const to = typeof values.to === 'string' ? (document.props.find((p) => p.id === values.to)?.name ?? '') : '';
    const map = typeof values.map === 'string' ? (allMaps(document).find(({ map: m }) => m.id === values.map)?.map.name ?? '') : '';
    return { name, of: to !== '' ? `to ${to}` : map };
}

/** The arithmetic of a map as one readable line. */
export function arithmetic(map: WeightMap, document: ShotDocument, catalogue: Catalogue): string {
    return map.sources
        .map((s, k) => {
            const { name, of } = sourceName(s, document, catalogue);
            const word = `${s.invert ? '¬' : ''}${name.toLowerCase()}${of === '' ? '' : `(${of.replace(/^to /, '')})`}`;
            const amount = typeof s.amount === 'number' && s.amount !== 1 ? `${Number(s.amount.toPrecision(3))}·` : '';
            const sign = OPERATIONS[s.operation ?? 'add'].sign;
            return k === 0 && (s.operation ?? 'add') === 'add' ? amount + word : `${sign} ${amount}${word}`;
        })
        .join(' ');
}

export function allMaps(document: ShotDocument): { prop: Prop; map: WeightMap }[] {
    return document.props.flatMap((prop) => (prop.weights ?? []).map((map) => ({ prop, map })));
}

/** A name no map of the shot has yet. */
export function freeMapName(document: ShotDocument, wanted: string): string {
    return freeAmong(allMaps(document).map(({ map }) => map.name), wanted);
}

export function freeMapId(document: ShotDocument, wanted: string): string {
    return free(idOf(wanted, 'map'), '-', (id) => allMaps(document).some(({ map }) => map.id === id));
}

/** Sources that usually stand in the world, not in their prop. */
const IN_WORLD: ReadonlySet<string> = new Set(['front']);

/**
 * A source as it is first added: where the prop is, and as large as suits it.
 *
 * @param middle of the prop, in its own coordinates and in the scene
 */
export function newSource(name: string, entry: Entry | undefined, suited: Record<string, unknown>, prop: Prop, document: ShotDocument, middle: { own: readonly number[]; scene: readonly number[] }): WeightSource {
    const values = defaultsOf(entry, suited);
    for (const at of ['middle', 'point', 'from']) if (at in values) values[at] = [...(IN_WORLD.has(name) ? middle.scene : middle.own)];
    if (name === 'proximity') values.to = document.props.find((p) => p.id !== prop.id && p.motion.kind !== 'fixed')?.id ?? document.props.find((p) => p.id !== prop.id)?.id ?? '';
    return { source: name, values, operation: 'add', amount: 1, ...(IN_WORLD.has(name) ? { on: 'world' } : {}) };
}

/** What moves by a map, in words after "it". */
export function movesBy(prop: Prop, map: string): string[] {
    const m = prop.motion;
    return [
        m.kind === 'drift' && m.drift?.map === map ? 'drifts its pieces' : '',
        [m.release, ...(m.groups ?? []).map((g) => g.release)].some((r) => r?.on === 'weight' && r.map === map) ? 'lets pieces go' : '',
        (m.pushes ?? []).some((p) => p.map === map) ? 'says how much they are pushed' : '',
    ].filter((words) => words !== '');
}

/** All that goes by a map, in words after "it"; and whether a bake shows some of it. */
export function effectsOf(prop: Prop, map: string, document: ShotDocument): { words: string[]; baked: boolean } {
    const steers = [prop.break, ...(prop.rework ?? [])].some((step) => Object.values(step?.values ?? {}).some((v) => steersBy(v, map)));
    const taken = allMaps(document).filter((o) => o.map.id !== map && o.map.sources.some((s) => (s.values as Record<string, unknown>).map === map));
    const moves = movesBy(prop, map);
    return {
        words: [
            ...moves,
            steers ? 'says where it breaks' : '',
            prop.appears?.map === map ? (prop.appears.invert ? 'takes it out of view' : 'brings it into view') : '',
            prop.material.second?.map === map ? 'turns its surface into another' : '',
            prop.relief?.map === map ? 'makes its surface stand out' : '',
            ...taken.map((o) => `goes on into ${o.map.name}`),
        ].filter((words) => words !== ''),
        baked: moves.some((words) => words !== 'drifts its pieces') || prop.motion.drift?.handOver === true,
    };
}

/** Whether an option is a weight that is taken from a map. */
function steersBy(option: unknown, map: string): boolean {
    const weight = option as { source?: unknown; values?: { map?: unknown } } | null;
    return weight?.source === 'map' && weight.values?.map === map;
}
