import { useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { api } from '../data/api';
import type { Prop } from '../data/document';
import { newProp } from '../data/make';
import { useShot } from '../data/shot';
import { said } from '../data/said';
import { useUi } from '../data/ui';

/** Where a prop comes from when it is made from a file: a mesh as it is, or the outline in a drawing or picture. */
export async function sourceOf(file: File): Promise<{ source: Prop['source']; colour: string | null; fit: boolean; picture: { asset: string; file: string } | null }> {
    if (/\.(svg|png)$/i.test(file.name)) {
        return { source: { kind: 'shape', shape: 'outline', values: { outline: await api.outline(file) } }, colour: null, fit: true, picture: /\.png$/i.test(file.name) ? await api.bringPicture(file) : null };
    }
    const asset = await api.bringIn(file);
    return { source: { kind: 'mesh', asset: asset.asset, file: asset.file, up: 'y', unit: 'm' }, colour: asset.colour, fit: asset.fitness.can_break, picture: null };
}

/** Takes a file into the shot as a new prop. */
export async function bringIn(file: File, materials: Awaited<ReturnType<typeof api.catalogue>>['materials']): Promise<void> {
    const note = toast.loading(`Reading ${file.name}…`);
    try {
        const { source, colour, fit, picture } = await sourceOf(file);
        const document = useShot.getState().shot!.document;
        const name = file.name.replace(/\.[^.]+$/, '').slice(0, 50) || 'Mesh';
        const prop = newProp(document, name, source, 'plaster', { ...materials.plaster!, ...(colour === null ? {} : { colour, inner: colour }) });
        // A slab cut out of a picture shows it on its face; its sides keep their colour.
        if (picture !== null) prop.material.picture = picture;
        toast.success(`${file.name} is on the stage.`, { id: note, description: fit ? 'It is a closed solid and can be broken.' : 'It needs a repair before it can be broken; see its fitness.' });
        if (await useShot.getState().edit(`Bring in ${file.name}`, [{ op: 'add', path: '/props/-', value: prop }])) useUi.getState().set({ chosen: prop.id, stage: 'props' });
    } catch (e) {
        toast.dismiss(note);
        said(e);
    }
}

/** The stage as a place to drop mesh files on. */
export function DropMesh({ children }: { children: ReactNode }) {
    const [over, setOver] = useState(false);
    const queries = useQueryClient();
    return (
        <div
            className="relative h-full min-w-0 overflow-hidden"
            onDragOver={(e) => {
                e.preventDefault();
                setOver(true);
            }}
            onDragLeave={(e) => !e.currentTarget.contains(e.relatedTarget as Node | null) && setOver(false)}
            onDrop={async (e) => {
                e.preventDefault();
                setOver(false);
                const files = [...e.dataTransfer.files];
                const { materials } = await queries.ensureQueryData({ queryKey: ['catalogue'], queryFn: api.catalogue });
                for (const file of files) await bringIn(file, materials);
            }}
        >
            {children}
            {over && <div className="pointer-events-none absolute inset-3 grid place-items-center border-2 border-dashed border-ink bg-paper/80 text-[16px] font-semibold">Drop it here: a mesh (OBJ, STL, PLY, GLB), a drawing (SVG) or a picture (PNG)</div>}
        </div>
    );
}
