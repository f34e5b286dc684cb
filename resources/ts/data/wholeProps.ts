import { toast } from 'sonner';
import { propPath, useShot } from './shot';
import { useUi } from './ui';

/** Takes a prop out of the shot, with the way back at hand. */
export async function removeProp(id: string): Promise<void> {
    const { shot, edit, undo } = useShot.getState();
    const prop = shot?.document.props.find((p) => p.id === id);
    if (shot === null || prop === undefined) return;
    if (await edit(`Remove ${prop.name}`, [{ op: 'remove', path: propPath(shot.document, id) }])) {
        useUi.getState().set({ chosen: null, picked: [] });
        toast(`${prop.name} was removed.`, { action: { label: 'Undo', onClick: () => void undo() } });
    }
}

/** Copies a prop with its set-up and chooses the copy. */
export async function copyProp(id: string): Promise<void> {
    const made = await useShot.getState().copyProp(id);
    if (made !== null) useUi.getState().set({ chosen: made, picked: [], lit: [] });
}
