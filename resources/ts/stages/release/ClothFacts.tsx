import { useEffect, useState } from 'react';
import { askCloth, type ClothWords } from '../../data/cloth';
import type { Prop } from '../../data/document';
import { editProp, useShot } from '../../data/shot';
import { Button } from '../../parts/controls';

/** How heavy cloth is, how small it folds, how far it sags; and finer faces where they are too wide for that. */
export function ClothFacts({ prop }: { prop: Prop }) {
    const shot = useShot((s) => s.shot?.id);
    const revision = useShot((s) => s.shot?.revision);
    const [told, setTold] = useState<ClothWords | null>(null);
    useEffect(() => {
        if (shot === undefined) return;
        return askCloth(shot, prop.id, setTold);
        // Only a saved revision counts.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [shot, prop.id, revision]);
    if (told?.words == null) return null;
    const finer = () => void editProp(prop.id, `Finer faces of ${prop.name}`, { '/prepare': [...(prop.prepare ?? []), { step: 'subdivide', values: { scheme: 'simple', times: 1 } }] });
    return (
        <div role="status" aria-label="What it is like as cloth" className="mt-1 border-t border-dotted border-line pt-1.5">
            {told.words.map((w) => <p key={w}>{w}</p>)}
            {told.coarse && <Button className="mt-1" hint="Divides every face into four, on Props" onClick={finer}>Make its faces finer</Button>}
        </div>
    );
}
