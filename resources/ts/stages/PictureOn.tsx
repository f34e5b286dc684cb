import { ImageUp } from 'lucide-react';
import { useRef } from 'react';
import { toast } from 'sonner';
import { api, ProblemError } from '../data/api';
import type { Prop } from '../data/document';
import { editProp } from '../data/shot';
import { Button } from '../parts/controls';

/** A picture on the outside of a prop; its inside keeps the inner colour. */
export function PictureOn({ prop }: { prop: Prop }) {
    const input = useRef<HTMLInputElement>(null);
    const picture = prop.material.picture ?? null;
    const take = async (file: File) => {
        try {
            await editProp(prop.id, `A picture on ${prop.name}`, { '/material/picture': await api.bringPicture(file) });
        } catch (e) {
            if (!(e instanceof ProblemError)) throw e;
            toast.error(e.problem.message, { description: e.problem.remedy });
        }
    };
    return (
        <div className="flex min-h-[33px] flex-wrap items-center gap-1.5 py-0.5">
            <span className="w-[108px] shrink-0">Picture</span>
            <input ref={input} type="file" accept="image/png,image/jpeg" className="sr-only" tabIndex={-1} aria-label="Picture for the outside" onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = '';
                if (file) void take(file);
            }} />
            {picture !== null && <img src={`/api/pictures/${picture.asset}`} alt={picture.file} title={picture.file} className="h-[27px] max-w-[40px] border border-line object-cover" />}
            <Button onClick={() => input.current?.click()} hint="PNG or JPEG; where the mesh says, or over its two large sides">{picture === null && <ImageUp size={13} aria-hidden />} {picture === null ? 'Choose…' : 'Change…'}</Button>
            {picture !== null && <Button onClick={() => void editProp(prop.id, `Take the picture off ${prop.name}`, { '/material/picture': null })}>Take off</Button>}
        </div>
    );
}
