import { useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { api } from '../data/api';
import { bringIn } from '../data/bringIn';

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
