import { Pencil } from 'lucide-react';
import { useUi } from '../data/ui';
import { Button } from '../parts/controls';

/** Starts and ends drawing lines in the picture, for the break or for a step after it. */
export function DrawLines({ target }: { target: 'break' | number }) {
    const { drawing, set } = useUi();
    const on = drawing === target;
    return <Button tone={on ? 'dark' : 'plain'} onClick={() => set({ drawing: on ? null : target })} aria-pressed={on}><Pencil size={13} aria-hidden /> {on ? 'Done drawing' : 'Draw in the picture'}</Button>;
}
