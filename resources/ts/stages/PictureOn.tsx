import { ImageUp } from 'lucide-react';
import { useRef } from 'react';
import { api } from '../data/api';
import type { Prop } from '../data/document';
import { editProp } from '../data/shot';
import { said } from '../data/said';
import { Button } from '../parts/controls';
import { NumberField } from '../parts/NumberField';

const SIDES = {
    outer: { path: '/material/picture', label: 'Picture', file: 'Picture for the outside', hint: 'PNG or JPEG; where the mesh says, or over its two large sides', on: 'A picture on', off: 'Take the picture off' },
    inner: { path: '/material/innerPicture', label: 'Inner picture', file: 'Picture for the inside', hint: 'PNG or JPEG, repeated at true scale on what the break lays open', on: 'A picture inside', off: 'Take the inner picture off' },
} as const;

/** A picture on the outside of a prop, or on what a break lays open. */
export function PictureOn({ prop, side }: { prop: Prop; side: keyof typeof SIDES }) {
    const input = useRef<HTMLInputElement>(null);
    const words = SIDES[side];
    const inner = prop.material.innerPicture ?? null;
    const picture = side === 'outer' ? (prop.material.picture ?? null) : inner;
    const take = async (file: File) => {
        try {
            const kept = await api.bringPicture(file);
            await editProp(prop.id, `${words.on} ${prop.name}`, { [words.path]: side === 'inner' ? { ...kept, metres: inner?.metres ?? 0.5 } : kept });
        } catch (e) {
            said(e);
        }
    };
    return (
        <>
            <div className="flex min-h-[33px] flex-wrap items-center gap-1.5 py-0.5">
                <span className="w-[108px] shrink-0">{words.label}</span>
                <input ref={input} type="file" accept="image/png,image/jpeg" className="sr-only" tabIndex={-1} aria-label={words.file} onChange={(e) => {
                    const file = e.target.files?.[0];
                    e.target.value = '';
                    if (file) void take(file);
                }} />
                {picture !== null && <img src={`api/pictures/${picture.asset}`} alt={picture.file} title={picture.file} className="h-[27px] max-w-[40px] border border-line object-cover" />}
                <Button className="px-2" onClick={() => input.current?.click()} hint={words.hint}>{picture === null && <ImageUp size={13} aria-hidden />} {picture === null ? 'Choose…' : 'Change…'}</Button>
                {picture !== null && <Button className="px-2" onClick={() => void editProp(prop.id, `${words.off} ${prop.name}`, { [words.path]: null })}>Take off</Button>}
            </div>
            {side === 'inner' && inner !== null && <NumberField label="Its width" hint="How wide one picture is; it repeats" unit="m" least={0.001} most={1000} value={inner.metres ?? 1} onChange={(metres) => void editProp(prop.id, `Width of the inner picture of ${prop.name}`, { '/material/innerPicture/metres': metres })} />}
        </>
    );
}
