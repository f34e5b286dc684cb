import { toast } from 'sonner';
import { create } from 'zustand';
import type { Copied } from './api';
import { propPath, useShot, visibleProps } from './shot';
import { useUi } from './ui';

/** Takes a prop out of the shot, and those chosen with it, with the way back at hand. */
export async function removeProp(id: string): Promise<void> {
    const { shot, edit, undo } = useShot.getState();
    const { chosen, also } = useUi.getState();
    const gone = (shot?.document.props ?? []).filter((p) => p.id === id || (chosen === id && also.includes(p.id)));
    if (shot === null || gone.length === 0) return;
    const what = gone.length === 1 ? gone[0]!.name : `${gone.length} props`;
    // The last first, so that numbers of the others stay.
    if (await edit(`Remove ${what}`, gone.map((p) => ({ op: 'remove' as const, path: propPath(shot.document, p.id) })).reverse())) {
        useUi.getState().set({ chosen: null, picked: [] });
        toast(gone.length === 1 ? `${what} was removed.` : `${what} were removed.`, { action: { label: 'Undo', onClick: () => void undo() } });
    }
}

/** Chooses all props that are not hidden. */
export function chooseAll(): void {
    const ids = visibleProps(useShot.getState().shot!.document).map((p) => p.id);
    if (ids.length > 0) useUi.getState().set({ chosen: ids[0]!, also: ids.slice(1), picked: [], lit: [] });
}

/** Copies a prop with its set-up and chooses the copy. */
export async function copyProp(id: string): Promise<void> {
    const made = await useShot.getState().copyProp(id);
    if (made !== null) useUi.getState().set({ chosen: made, picked: [], lit: [] });
}

const kept = typeof localStorage === 'undefined' ? null : localStorage.getItem('copied');

/** The prop copied last; it is there in every shot, and after a reload. */
export const useCopied = create<{ copied: Copied | null }>(() => ({ copied: kept === null ? null : (JSON.parse(kept) as Copied) }));

export function takeCopy(id: string): void {
    const shot = useShot.getState().shot;
    const name = shot?.document.props.find((p) => p.id === id)?.name;
    if (shot === null || name === undefined) return;
    const copied = { shot: shot.id, prop: id, name };
    localStorage.setItem('copied', JSON.stringify(copied));
    useCopied.setState({ copied });
    useUi.getState().set({ cut: [] });
    toast(`${name} is copied.`, { description: 'Paste it with Ctrl V, here or in another shot; or only some of its set-up, on Props.' });
}

/** Pastes the prop that was copied; or, onto one that is there, some members of it, all that can be where none are named. */
export async function paste(onto?: { onto: string; what: readonly string[] }): Promise<void> {
    const copied = useCopied.getState().copied;
    if (copied === null) return;
    const told = await useShot.getState().paste(copied, onto);
    if (told === null) return;
    useUi.getState().set({ chosen: told.made, picked: [], lit: [] });
    if (told.left.length > 0) toast(`Some of ${copied.name} makes no sense here and was left out.`, { description: told.left.join(' '), duration: 12000 });
}
