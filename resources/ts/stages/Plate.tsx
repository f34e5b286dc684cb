import { ImageUp } from 'lucide-react';
import { useRef } from 'react';
import { useUi } from '../data/ui';
import { Button } from '../parts/controls';
import { NumberField } from '../parts/NumberField';

/** A reference picture laid over the prop while lines are drawn. */
export function Plate() {
    const { plate, set } = useUi();
    const input = useRef<HTMLInputElement>(null);
    return (
        <div className="py-1">
            <input ref={input} type="file" accept="image/*" className="sr-only" tabIndex={-1} aria-label="Plate to draw after" onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = '';
                if (plate !== null) URL.revokeObjectURL(plate.url);
                if (file) set({ plate: { url: URL.createObjectURL(file), opacity: 0.5 } });
            }} />
            {plate === null ? (
                <Button onClick={() => input.current?.click()} hint="A photo to draw after; only you see it"><ImageUp size={13} aria-hidden /> Plate to draw after…</Button>
            ) : (
                <div className="flex items-center gap-2">
                    <div className="flex-1"><NumberField slider label="Plate" unit="%" least={0} most={1} value={plate.opacity} onChange={(opacity) => set({ plate: { ...plate, opacity } })} /></div>
                    <Button onClick={() => { URL.revokeObjectURL(plate.url); set({ plate: null }); }}>Take off</Button>
                </div>
            )}
        </div>
    );
}
