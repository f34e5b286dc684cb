import type { Motion } from './document';

/** Whether a mover of the core moves a prop, not its keys alone. */
export function hasMover(m: Motion): boolean {
    return m.kind !== 'fixed' && m.kind !== 'keyed';
}

/** Whether its pieces are ever let go. */
export function letsGo(m: Motion): boolean {
    return m.kind === 'drift' ? m.drift?.handOver === true : hasMover(m);
}

/** Whether physics has it from the start of a bake on: where it is placed counts only until then. */
export function startsThere(m: Motion): boolean {
    return m.kind !== 'drift' && hasMover(m);
}
