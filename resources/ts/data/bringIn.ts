import { toast } from 'sonner';
import { api } from './api';
import type { Prop } from './document';
import { newProp } from './make';
import { askFor } from './question';
import { said } from './said';
import { show } from './quantity';
import { useShot } from './shot';
import { useUi } from './ui';

type Unit = Extract<Prop['source'], { kind: 'mesh' }>['unit'];

const METRES: Record<Unit, number> = { m: 1, cm: 0.01, mm: 0.001, km: 1000, in: 0.0254, ft: 0.3048 };

const UNITS: Record<Unit, string> = { m: 'metres', cm: 'centimetres', mm: 'millimetres', km: 'kilometres', in: 'inches', ft: 'feet' };

/** Sizes no prop truly has, in metres: taken as they stand, they are in another unit. */
const TRUE_SIZES = [0.001, 1000] as const;

/** What a file's numbers are: metres, unless its size cannot be true; then the artist is asked. */
async function unitOf(file: string, size: number): Promise<Unit> {
    if (!(size > 0) || (size >= TRUE_SIZES[0] && size <= TRUE_SIZES[1])) return 'm';
    const units = Object.keys(METRES) as Unit[];
    const off = (unit: Unit) => Math.abs(Math.log10(size * METRES[unit]));
    const answer = await askFor({
        title: `How large is ${file}?`,
        text: `In metres it would be ${show(size, 'm')} across. Which unit was it made in?`,
        choices: units.map((unit) => ({ value: unit, label: UNITS[unit], note: show(size * METRES[unit], 'm') })),
        likely: units.reduce((best, unit) => (off(unit) < off(best) ? unit : best)),
    });
    return (answer as Unit | null) ?? 'm';
}

/** Where a prop comes from when it is made from a file: a mesh as it is, or the outline in a drawing or picture. */
export async function sourceOf(file: File): Promise<{ source: Prop['source']; colour: string | null; fit: boolean; low: number; picture: { asset: string; file: string } | null }> {
    if (/\.(svg|png)$/i.test(file.name)) {
        return { source: { kind: 'shape', shape: 'outline', values: { outline: await api.outline(file) } }, colour: null, fit: true, low: 0, picture: /\.png$/i.test(file.name) ? await api.bringPicture(file) : null };
    }
    const asset = await api.bringIn(file);
    const [low, high] = asset.fitness.bounds;
    const unit = await unitOf(asset.file, Math.max(...high.map((v, a) => v - low[a]!)));
    return { source: { kind: 'mesh', asset: asset.asset, file: asset.file, up: 'y', unit }, colour: asset.colour, fit: asset.fitness.can_break, low: low[1]! * METRES[unit], picture: null };
}

/** Takes a file into the shot as a new prop. */
export async function bringIn(file: File, materials: Awaited<ReturnType<typeof api.catalogue>>['materials']): Promise<void> {
    const note = toast.loading(`Reading ${file.name}…`);
    try {
        const { source, colour, fit, low, picture } = await sourceOf(file);
        const document = useShot.getState().shot!.document;
        const name = file.name.replace(/\.[^.]+$/, '').slice(0, 50) || 'Mesh';
        const prop = newProp(document, name, source, 'terracotta', { ...materials.terracotta!, ...(colour === null ? {} : { colour, inner: colour }) });
        // It stands on the ground.
        prop.place.position = [0, Number((-low).toPrecision(9)) + 0, 0];
        // A slab cut out of a picture shows it on its face; its sides keep their colour.
        if (picture !== null) prop.material.picture = picture;
        toast.success(`${file.name} is on the stage.`, { id: note, description: fit ? 'It is a closed solid and can be broken.' : 'It needs a repair before it can be broken; see its fitness.' });
        if (await useShot.getState().edit(`Bring in ${file.name}`, [{ op: 'add', path: '/props/-', value: prop }])) useUi.getState().set({ chosen: prop.id, stage: 'props' });
    } catch (e) {
        toast.dismiss(note);
        said(e);
    }
}
