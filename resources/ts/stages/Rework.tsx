import type { Catalogue } from '../data/api';
import type { Prop, ReworkStep } from '../data/document';
import { usePieces } from '../data/pieces';
import { editProp } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Section } from '../parts/controls';
import { DrawLines } from './DrawLines';
import { defaultsOf } from '../data/options';
import { startsThere } from '../data/motion';
import { Stack } from './Stack';

const OWN: Record<string, string> = { join: 'Join', remove: 'Take out' };

/** What is done to pieces after the first break: broken again, joined, taken out. */
export function Rework({ prop, catalogue }: { prop: Prop; catalogue: Catalogue }) {
    const pieces = usePieces((s) => s.byProp[prop.id]?.pieces);
    const lengths = usePieces((s) => s.byProp[prop.id]?.lengths.patterns);
    const { picked, set } = useUi();
    const steps = prop.rework ?? [];
    const names = picked.map((i) => pieces?.[i]?.name).filter((n): n is string => n !== undefined);
    const change = (label: string, next: ReworkStep[]) => void editProp(prop.id, label, { '/rework': next });
    const add = (pattern: string) => {
        change(`${OWN[pattern] ?? `Break again by ${catalogue.patterns[pattern]?.label}`}: ${names.length === 1 ? names[0] : `${names.length} pieces`}`, [...steps, { pattern, values: pattern in OWN ? {} : defaultsOf(catalogue.patterns[pattern], lengths?.[pattern]), pieces: names.length === 0 ? null : names }]);
        set({ picked: [] });
    };
    const group = () => {
        const groups = prop.motion.groups ?? [];
        const frame = useUi.getState().frame;
        void editProp(prop.id, `Let ${names.length} pieces go apart`, { '/motion/groups': [...groups, { name: `Group ${groups.length + 1}`, release: { on: 'frame', frame }, pieces: names }] });
        set({ picked: [] });
    };
    return (
        <Section title="Then, piece by piece" aside={names.length === 0 ? undefined : `${names.length} picked`}>
            <Stack
                items={steps.map((s) => ({ name: s.pattern, entry: catalogue.patterns[s.pattern] ?? { label: OWN[s.pattern] ?? s.pattern, options: [] }, values: s.values, note: s.pieces == null ? 'all pieces' : s.pieces.length === 1 ? s.pieces[0] : `${s.pieces.length} pieces` }))}
                empty="Pick pieces in the picture or the chart, then break them again, join them or take them out."
                onValue={(i, option, label, value) => change(`${label} of step ${i + 1}`, steps.map((s, k) => (k === i ? { ...s, values: { ...s.values, [option]: value } } : s)))}
                onRemove={(i) => {
                    set({ drawing: null });
                    change('Undo a step of the break', steps.filter((_, k) => k !== i));
                }}
                draw={(i) => <DrawLines target={i} />}
            />
            <div className="flex flex-wrap items-center gap-1.5">
                <select aria-label="Break again by" value="" disabled={names.length === 0} onChange={(e) => add(e.target.value)} className="h-[29px] border border-line bg-raised px-1.5 disabled:text-soft">
                    <option value="">Break again by…</option>
                    {Object.entries(catalogue.patterns).map(([name, entry]) => <option key={name} value={name}>{entry.label}</option>)}
                </select>
                <Button disabled={names.length < 2} onClick={() => add('join')}>Join</Button>
                <Button disabled={names.length === 0} onClick={() => add('remove')}>Take out</Button>
                {startsThere(prop.motion) && prop.motion.values?.held !== 'whole' && <Button disabled={names.length === 0} onClick={group} hint="These are let go at the frame of the playhead, whatever lets the others go">Release apart</Button>}
            </div>
        </Section>
    );
}
