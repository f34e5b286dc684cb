import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { api, type PlateMade } from '../data/api';
import { addCamera } from '../data/camera';
import type { Plate } from '../data/document';
import { said } from '../data/said';
import { useDocument, useShot } from '../data/shot';
import { useCatalogue } from '../data/useCatalogue';
import { useUi } from '../data/ui';
import { Button, Section } from '../parts/controls';
import { KeyedNumber, KeyedTriple } from '../parts/KeyedField';
import { NumberField } from '../parts/NumberField';
import { LineUp } from './LineUp';

const PICTURES = /\.(png|jpe?g)$/i;

/** The shot's camera, and the footage it is matched to. */
export function CameraAndPlate() {
    const document = useDocument();
    const options = useCatalogue()?.settings.camera ?? [];
    const edit = useShot((s) => s.edit);
    const view = useUi((s) => s.view);
    const set = useUi((s) => s.set);
    if (!document) return null;
    const { camera } = document;
    if (camera === undefined) {
        return (
            <Section title="Camera and plate">
                <p className="mb-2 text-soft">A camera frames the shot, leaves with the hand-off, and shows the plate behind the props.</p>
                <Button onClick={addCamera}>Add a camera from this view</Button>
            </Section>
        );
    }
    const through = view.name === 'camera';
    return (
        <>
            <Section title="Camera">
                <Button className="mb-1 w-full" aria-pressed={through} tone={through ? 'dark' : 'plain'} onClick={() => set({ view: { name: through ? 'three-quarter' : 'camera', asked: view.asked + 1 } })}>{through ? 'Stop looking through it' : 'Look through it'}</Button>
                {through && <p className="mb-1 text-soft">Dragging in the picture moves it.</p>}
                {options.map((o) => (o.type === 'point' ? <KeyedTriple key={o.name} lane={`:camera/${o.name}`} option={o} step={0.05} /> : <KeyedNumber key={o.name} lane={`:camera/${o.name}`} option={o} />))}
                <NumberField whole label="Picture width" unit="px" least={16} most={16384} value={camera.shape[0]} onChange={(v) => void edit('Width of the picture', [{ op: 'replace', path: '/camera/shape/0', value: v }])} />
                <NumberField whole label="Picture height" unit="px" least={16} most={16384} value={camera.shape[1]} onChange={(v) => void edit('Height of the picture', [{ op: 'replace', path: '/camera/shape/1', value: v }])} />
                <Button className="mt-1.5" onClick={() => { set({ view: { name: 'three-quarter', asked: view.asked + 1 } }); void edit('Remove the camera', [{ op: 'remove', path: '/camera' }]); }}>Remove the camera</Button>
            </Section>
            <PlateSection plate={document.plate} />
            <LineUp camera={camera} />
        </>
    );
}

function PlateSection({ plate }: { plate: Plate | undefined }) {
    const edit = useShot((s) => s.edit);
    const option = useCatalogue()?.settings.plate[0];
    const input = useRef<HTMLInputElement>(null);
    const [doing, setDoing] = useState<string | null>(null);
    const calledOff = useRef<AbortController | null>(null);
    const take = async (files: File[]) => {
        calledOff.current = new AbortController();
        const { signal } = calledOff.current;
        try {
            const made = files.length === 1 && !PICTURES.test(files[0]!.name) ? await film(files[0]!, setDoing, signal) : await pictures(files, setDoing, signal);
            if (made === null) return;
            await edit(`Plate ${made.plate.name}`, [{ op: 'add', path: '/plate', value: { ...made.plate, opacity: 1 } }]);
            const { missing } = made;
            if (missing.length > 0) toast(`${missing.length === 1 ? 'A frame is' : `${missing.length} frames are`} missing from the plate: ${missing.slice(0, 8).join(', ')}${missing.length > 8 ? ' …' : ''}.`, { description: 'Where one is missing the one before it is shown.' });
        } catch (e) {
            if (!signal.aborted) said(e);
        } finally {
            setDoing(null);
        }
    };
    const set = (name: 'scale' | 'offset' | 'later', value: unknown, label: string) => void edit(label, [{ op: 'add', path: `/plate/${name}`, value }]);
    return (
        <Section title="Plate" aside={plate ? `${plate.width} × ${plate.height}` : undefined}>
            <input ref={input} type="file" multiple hidden accept="image/png,image/jpeg,video/*,.mxf,.mkv" aria-label="Plate files" onChange={(e) => { void take([...(e.target.files ?? [])]); e.target.value = ''; }} />
            {plate === undefined ? <p className="mb-2 text-soft">Footage behind the props: numbered pictures, or a film.</p> : (
                <>
                    <p className="mb-1 truncate">{plate.name}, {plate.frames.length === 1 ? 'one picture' : `${plate.frames.length} pictures`}</p>
                    {option && <KeyedNumber lane=":plate/opacity" option={option} slider />}
                    <NumberField label="Scale" hint="Times as wide as the camera's picture" unit="×" least={0.01} most={100} value={plate.scale ?? 1} onChange={(v) => set('scale', v, 'Scale of the plate')} />
                    <NumberField label="To the right" unit="%" least={-10} most={10} value={plate.offset?.[0] ?? 0} onChange={(v) => set('offset', [v, plate.offset?.[1] ?? 0], 'Offset of the plate')} />
                    <NumberField label="Up" unit="%" least={-10} most={10} value={plate.offset?.[1] ?? 0} onChange={(v) => set('offset', [plate.offset?.[0] ?? 0, v], 'Offset of the plate')} />
                    <NumberField whole label="Frames later" least={-100000} most={100000} value={plate.later ?? 0} onChange={(v) => set('later', v, 'Time of the plate')} />
                </>
            )}
            {doing !== null && <p className="mt-1 text-soft" role="status">{doing}</p>}
            <div className="mt-1.5 flex gap-2">
                {doing === null ? <Button onClick={() => input.current?.click()}>{plate ? 'Another plate' : 'Bring in a plate'}</Button> : <Button onClick={() => calledOff.current?.abort()}>Stop reading</Button>}
                {plate && <Button onClick={() => void edit('Remove the plate', [{ op: 'remove', path: '/plate' }])}>Remove</Button>}
            </div>
        </Section>
    );
}

async function pictures(files: File[], doing: (words: string) => void, calledOff: AbortSignal): Promise<PlateMade | null> {
    const kept: { name: string; asset: string }[] = [];
    for (const file of files) {
        if (calledOff.aborted) return null;
        doing(`Bringing in ${kept.length + 1} of ${files.length}…`);
        kept.push({ name: file.name, asset: (await api.bringPicture(file)).asset });
    }
    return api.platePictures(kept);
}

function film(file: File, doing: (words: string) => void, calledOff: AbortSignal): Promise<PlateMade | null> {
    doing(`Sending ${file.name}…`);
    return api.plateFilm(file, ({ what, share }) => doing(`${what ?? 'Waiting for a worker'}${share == null ? '…' : `: ${Math.round(100 * share)} % read`}`), calledOff);
}
