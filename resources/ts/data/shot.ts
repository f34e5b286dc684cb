import { toast } from 'sonner';
import { create } from 'zustand';
import { api, ProblemError, type Copied, type PatchStep, type ShotView } from './api';
import type { Prop, ShotDocument } from './document';
import { applyPatch, standing } from './patch';
import { onOthers } from './several';
import { useUi } from './ui';

interface ShotState {
    shot: ShotView | null;
    saving: number;
    load: (id: string) => Promise<void>;
    /** Changes the document at once and on the server after; a refusal puts it back and says why. */
    edit: (label: string, patch: PatchStep[]) => Promise<boolean>;
    /** Puts the hole of one prop through others as well. */
    punch: (prop: string, others: string[]) => Promise<void>;
    /** Copies a prop with its set-up, beside it; the copy's id, or null where that was refused. */
    copyProp: (prop: string) => Promise<string | null>;
    /** Pastes a prop, or some of its set-up onto another; which prop that made or changed, and what was left out, or null where it was refused. */
    paste: (from: Copied, onto?: { onto: string; what: readonly string[] }) => Promise<{ made: string; left: string[] } | null>;
    /** Lays kept values of a bench on props; what was left out, or null where it was refused. */
    layPreset: (preset: string, onto: readonly string[]) => Promise<{ left: string[] } | null>;
    /** Keeps a prop as it is at a frame as a prop of its own, the last one. */
    keepFrame: (prop: string, frame: number) => Promise<boolean>;
    undo: () => Promise<void>;
    redo: () => Promise<void>;
    /** Goes to what the shot was right after an edit; 0 is as it began. */
    goTo: (edit: number) => Promise<void>;
}

// Edits go to the server one after the other, so that each starts from the revision the last one made.
let tail: Promise<unknown> = Promise.resolve();

export const useShot = create<ShotState>((set, get) => {
    async function settle(work: () => Promise<ShotView>): Promise<boolean> {
        try {
            const next = await work();
            // What was changed since is shown already, and is still to be sent.
            set((s) => ({ shot: s.saving === 1 || s.shot === null ? next : { ...next, document: s.shot.document } }));
            return true;
        } catch (e) {
            await recover(e);
            return false;
        }
    }

    async function recover(e: unknown): Promise<void> {
        const id = get().shot?.id;
        if (!(e instanceof ProblemError) || id === undefined) throw e;
        toast.error(e.problem.message, { description: e.problem.remedy });
        if (e.status === 409) {
            set({ shot: (e.body as { shot: ShotView }).shot });
        } else if (e.status !== 0) {
            set({ shot: await api.shot(id) });
        }
    }

    function queue(work: () => Promise<boolean>): Promise<boolean> {
        set((s) => ({ saving: s.saving + 1 }));
        const turn = () => work().finally(() => set((s) => ({ saving: s.saving - 1 })));
        const run = tail.then(turn, turn);
        tail = run;
        return run;
    }

    /** A change that says more than what the shot is then. */
    async function telling<T extends ShotView>(work: (id: string, revision: number) => Promise<T>): Promise<T | null> {
        let told: T | null = null;
        await queue(() => settle(async () => (told = await work(get().shot!.id, get().shot!.revision))));
        return told;
    }

    return {
        shot: null,
        saving: 0,
        load: async (id) => {
            if (get().shot?.id !== id) set({ shot: null });
            set({ shot: await api.shot(id, true) });
        },
        edit: (label, steps) => {
            const before = get().shot;
            const patch = before === null ? [] : standing(before.document, steps);
            if (before === null || patch.length === 0) return Promise.resolve(true);
            set({ shot: { ...before, document: applyPatch(before.document, patch) } });
            return queue(() =>
                settle(async () => {
                    const now = get().shot!;
                    try {
                        return await api.edit(now.id, now.revision, patch, label);
                    } catch (e) {
                        if (!(e instanceof ProblemError) || e.status !== 409) throw e;
                        // Another window was first: put this change on top of what it made.
                        const newer = (e.body as { shot: ShotView }).shot;
                        toast('Another window changed this shot too.', { description: `Its changes are shown, with yours (${label.toLowerCase()}) on top.` });
                        return api.edit(now.id, newer.revision, patch, label);
                    }
                }),
            );
        },
        punch: async (prop, others) => {
            await queue(() => settle(() => api.punch(get().shot!.id, prop, get().shot!.revision, others)));
        },
        copyProp: (prop) => telling(async (id, revision) => api.copyProp(id, prop, revision)).then((told) => told?.made ?? null),
        paste: (from, onto) => telling((id, revision) => api.paste(id, revision, from, onto)),
        layPreset: (preset, onto) => telling((id, revision) => api.layPreset(id, revision, preset, onto)),
        keepFrame: (prop, frame) => queue(() => settle(() => api.keepFrame(get().shot!.id, prop, get().shot!.revision, frame))),
        undo: async () => {
            await queue(() => settle(() => api.undo(get().shot!.id, get().shot!.revision)));
        },
        redo: async () => {
            await queue(() => settle(() => api.redo(get().shot!.id, get().shot!.revision)));
        },
        goTo: async (edit) => {
            await queue(() => settle(() => api.goTo(get().shot!.id, get().shot!.revision, edit)));
        },
    };
});

export function useDocument(): ShotDocument | null {
    return useShot((s) => s.shot?.document ?? null);
}

export function propPath(document: ShotDocument, id: string): string {
    return `/props/${document.props.findIndex((p) => p.id === id)}`;
}

/** An edit of a prop, and of those chosen with it: `changes` maps paths below the prop to values; undefined removes. Members of a list are replaced, not added. */
export function editProp(id: string, label: string, changes: Record<string, unknown>, how: 'add' | 'replace' = 'add'): Promise<boolean> {
    const { shot, edit } = useShot.getState();
    if (shot === null) return Promise.resolve(false);
    const base = propPath(shot.document, id);
    const { chosen, also } = useUi.getState();
    const others = chosen === id ? onOthers(shot.document, id, also, changes, how) : [];
    return edit(others.length === 0 ? label : `${label}, and of ${also.length} more`, [
        ...Object.entries(changes).map(([path, value]): PatchStep => (value === undefined ? { op: 'remove', path: base + path } : { op: how, path: base + path, value })),
        ...others,
    ]);
}

export function visibleProps(document: ShotDocument): Prop[] {
    return document.props.filter((p) => !p.hidden);
}
