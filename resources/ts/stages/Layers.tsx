import { useState } from 'react';
import type { Prop } from '../data/document';
import { useDocument, useShot, visibleProps } from '../data/shot';
import { Button, Toggle } from '../parts/controls';

/** Other props the same hole goes through, each torn its own way. */
export function Layers({ prop }: { prop: Prop }) {
    const document = useDocument();
    const [through, setThrough] = useState<readonly string[]>([]);
    const others = document ? visibleProps(document).filter((p) => p.id !== prop.id) : [];
    if (others.length === 0) return null;
    const chosen = through.filter((id) => others.some((p) => p.id === id));
    return (
        <fieldset className="border-t border-dotted border-line py-1.5">
            <legend className="sr-only">Punch through more layers</legend>
            <p>Through other layers too, each torn its own way:</p>
            {others.map((p) => <Toggle key={p.id} label={p.name} value={chosen.includes(p.id)} onChange={(on) => setThrough(on ? [...chosen, p.id] : chosen.filter((id) => id !== p.id))} />)}
            <Button disabled={chosen.length === 0} onClick={() => void useShot.getState().punch(prop.id, chosen)}>Punch through {chosen.length === 0 ? '' : chosen.length} more</Button>
        </fieldset>
    );
}
