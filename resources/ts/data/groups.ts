import type { PatchStep } from './api';
import type { Prop, ShotDocument } from './document';
import { useShot } from './shot';
import { useUi } from './ui';

/** Props in the order of the strip: those of a group together, where the first of them stands. */
export interface Stand {
    group: string | null;
    props: Prop[];
}

export function standsOf(props: readonly Prop[]): Stand[] {
    const out: Stand[] = [];
    const by = new Map<string, Stand>();
    for (const prop of props) {
        const known = prop.group === undefined ? undefined : by.get(prop.group);
        if (known !== undefined) known.props.push(prop);
        else {
            const stand: Stand = { group: prop.group ?? null, props: [prop] };
            out.push(stand);
            if (prop.group !== undefined) by.set(prop.group, stand);
        }
    }
    return out;
}

/** The patch that makes some props a group, or of none where it has no name. */
export function groupPatch({ props }: Pick<ShotDocument, 'props'>, ids: readonly string[], name: string | null): PatchStep[] {
    return props.flatMap((prop, k): PatchStep[] => {
        if (!ids.includes(prop.id)) return [];
        if (name !== null) return [{ op: 'add', path: `/props/${k}/group`, value: name }];
        return prop.group === undefined ? [] : [{ op: 'remove', path: `/props/${k}/group` }];
    });
}

/** The props that are chosen now. */
export function allChosen(): string[] {
    const { chosen, also } = useUi.getState();
    return chosen === null ? [] : [chosen, ...also];
}

export function group(name: string): Promise<boolean> {
    const { shot, edit } = useShot.getState();
    const words = name.trim().slice(0, 40);
    return shot === null || words === '' ? Promise.resolve(false) : edit(`Group ${words}`, groupPatch(shot.document, allChosen(), words));
}

export function ungroup(): Promise<boolean> {
    const { shot, edit } = useShot.getState();
    return shot === null ? Promise.resolve(false) : edit('Ungroup', groupPatch(shot.document, allChosen(), null));
}

/** Chooses all of a group: what is set or moved then is set and moved for all of them. */
export function chooseGroup(props: readonly Prop[]): void {
    const ids = props.filter((p) => !p.hidden).map((p) => p.id);
    if (ids.length > 0) useUi.getState().set({ chosen: ids[0]!, also: ids.slice(1), picked: [], lit: [] });
}
