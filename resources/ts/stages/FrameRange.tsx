import type { PatchStep } from '../data/api';
import type { Frames, ShotDocument } from '../data/document';
import { askFor } from '../data/question';
import { useDocument, useShot } from '../data/shot';
import { rateInWords } from '../data/time';
import { useCatalogue } from '../data/useCatalogue';

/** First and last frame, and how many go to a second. */
export function FrameRange() {
    const document = useDocument()!;
    const rates = useCatalogue()?.rates ?? [];
    const edit = useShot((s) => s.edit);
    const { frames } = document;
    const field = (name: 'first' | 'last', label: string) => (
        <label key={name} className="block">
            <span className="block text-soft">{label}</span>
            <input
                key={frames[name]}
                aria-label={label}
                defaultValue={frames[name]}
                inputMode="numeric"
                className="figure h-[26px] w-full border border-line bg-raised px-2 text-[12px]"
                onKeyDown={(e) => {
                    e.stopPropagation();
                    if (e.key === 'Escape') e.currentTarget.value = String(frames[name]);
                    if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
                }}
                onBlur={(e) => {
                    const v = Number(e.target.value);
                    if (Number.isFinite(v) && v !== frames[name]) void edit(label, [{ op: 'replace', path: `/frames/${name}`, value: v }]);
                    else e.target.value = String(frames[name]);
                }}
            />
        </label>
    );
    const known = rates.some((r) => same(r, frames.rate)) ? rates : [frames.rate, ...rates];
    return (
        <div className="grid grid-cols-3 gap-2">
            {field('first', 'First frame')}
            {field('last', 'Last frame')}
            <label className="block">
                <span className="block text-soft">Rate</span>
                <select aria-label="Rate" value={frames.rate.join('/')} className="figure h-[26px] w-full border border-line bg-raised px-1 text-[12px]" onChange={(e) => void setRate(document, e.target.value.split('/').map(Number) as [number, number])}>
                    {known.map((r) => <option key={r.join('/')} value={r.join('/')}>{rateInWords(r)}</option>)}
                </select>
            </label>
        </div>
    );
}

/** Another rate: what has keys keeps its frames, or its seconds. */
async function setRate(document: ShotDocument, rate: [number, number]): Promise<void> {
    const { edit } = useShot.getState();
    const patch: PatchStep[] = [{ op: 'replace', path: '/frames/rate', value: rate }];
    if (timed(document).length > 0) {
        const answer = await askFor({
            title: `From ${rateInWords(document.frames.rate)} to ${rateInWords(rate)}`,
            text: 'This shot has keys, releases or cues. They can stay on their frames, and then happen sooner or later; or keep their time, and move to other frames.',
            choices: [{ value: 'frames', label: 'Keep frames' }, { value: 'seconds', label: 'Keep seconds' }],
            likely: 'frames',
        });
        if (answer === null) return;
        if (answer === 'seconds') patch.push(...stretched(document, rate));
    }
    await edit(`Rate ${rateInWords(rate)}`, patch);
}

/** Numbers of the document that are frames, or frames from a cue; `whole` where they must be whole. */
function timed(document: ShotDocument): { path: string; value: number; whole: boolean }[] {
    const out: { path: string; value: number; whole: boolean }[] = [];
    const walk = (node: unknown, path: string): void => {
        if (typeof node !== 'object' || node === null) return;
        const at = node as Record<string, unknown>;
        for (const name of ['frame', 'offset']) if (typeof at[name] === 'number' && ('value' in at || 'on' in at || 'pieces' in at || 'text' in at)) out.push({ path: `${path}/${name}`, value: at[name], whole: name === 'frame' && !('value' in at) });
        for (const [name, part] of Object.entries(node)) walk(part, `${path}/${name}`);
    };
    walk(document.world, '/world');
    walk(document.camera ?? {}, '/camera');
    walk(document.cues ?? [], '/cues');
    walk(document.notes ?? [], '/notes');
    document.props.forEach((p, i) => (['place', 'material', 'motion'] as const).forEach((g) => walk(p[g], `/props/${i}/${g}`)));
    return out;
}

/** The edit that keeps seconds at another rate. */
export function stretched(document: ShotDocument, rate: Frames['rate']): PatchStep[] {
    const factor = (rate[0] / rate[1]) / (document.frames.rate[0] / document.frames.rate[1]);
    const to = (v: number, whole: boolean) => (whole ? Math.round(v * factor) : Number((v * factor).toPrecision(12)));
    return [
        { op: 'replace', path: '/frames/first', value: to(document.frames.first, true) },
        { op: 'replace', path: '/frames/last', value: to(document.frames.last, true) },
        ...timed(document).map(({ path, value, whole }) => ({ op: 'replace' as const, path, value: to(value, whole) })),
    ];
}

function same(a: readonly [number, number], b: readonly [number, number]): boolean {
    return a[0] === b[0] && a[1] === b[1];
}
