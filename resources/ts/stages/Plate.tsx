import { ImageUp } from 'lucide-react';
import { useRef } from 'react';
import { api } from '../data/api';
import type { Prop } from '../data/document';
import { editProp } from '../data/shot';
import { said } from '../data/said';
import { Button } from '../parts/controls';
import { NumberField } from '../parts/NumberField';

/** A reference picture laid over the prop while lines are drawn, kept with the shot. */
export function Plate({ prop }: { prop: Prop }) {
    const plate = prop.break?.plate ?? null;
    const input = useRef<HTMLInputElement>(null);
    const take = async (file: File) => {
        try {
            await editProp(prop.id, `A plate over ${prop.name}`, { '/break/plate': { ...(await api.bringPicture(file)), opacity: plate?.opacity ?? 0.5 } });
        } catch (e) {
            said(e);
        }
    };
    return (
        <div className="py-1">
            <input ref={input} type="file" accept="image/png,image/jpeg" className="sr-only" tabIndex={-1} aria-label="Plate to draw after" onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = '';
                if (file) void take(file);
            }} />
            {plate === null ? (
                <Button onClick={() => input.current?.click()} hint="A photo to draw after, laid over the prop"><ImageUp size={13} aria-hidden /> Plate to draw after…</Button>
            ) : (
                <div className="flex items-center gap-2">
                    <div className="flex-1"><NumberField slider label="Plate" unit="%" least={0} most={1} value={plate.opacity} onChange={(opacity) => void editProp(prop.id, 'Opacity of the plate', { '/break/plate/opacity': opacity })} /></div>
                    <Button onClick={() => void editProp(prop.id, 'Take the plate off', { '/break/plate': null })}>Take off</Button>
                </div>
            )}
        </div>
    );
}
