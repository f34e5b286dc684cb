import { Trash2 } from 'lucide-react';
import type { Catalogue } from '../../data/api';
import type { Prop, WeightMap } from '../../data/document';
import { useMaps } from '../../data/maps';
import { defaultsOf } from '../../data/options';
import { usePieces } from '../../data/pieces';
import { editProp } from '../../data/shot';
import { Section } from '../../parts/controls';
import { AddMenu } from '../../parts/AddMenu';
import { Options } from '../Options';

/** What becomes of a map from frame to frame. */
export function InTime({ prop, map, mapAt, catalogue }: { prop: Prop; map: WeightMap; mapAt: number; catalogue: Catalogue }) {
    const steps = map.inTime ?? [];
    const path = `/weights/${mapAt}/inTime`;
    const tried = useMaps((s) => s.trial !== null);
    const lengths = usePieces((s) => s.byProp[prop.id]?.lengths.weights);
    const add = (name: string) => void editProp(prop.id, `${catalogue.inTime[name]!.label} in time`, { [path]: [...steps, { step: name, values: defaultsOf(catalogue.inTime[name], lengths?.[name]) }] });
    return (
        <Section title="In time" aside={<AddMenu label="step" entries={catalogue.inTime} onAdd={add} />}>
            {steps.length === 0 && <p className="text-soft">Follows its sources at once. Spread lets it creep on from where it touched; Latch keeps what was reached.</p>}
            {steps.length > 0 && tried && <p className="mb-1 text-soft">Shown as the sources make it, before these steps, until it is worked out.</p>}
            {steps.map((step, k) => {
                const entry = catalogue.inTime[step.step];
                return (
                    <div key={k} className="mb-1.5 border border-line bg-raised px-2.5 py-1">
                        <div className="flex items-center gap-2">
                            <span className="figure text-[11px] text-soft">{k + 1}</span>
                            <span className="font-medium">{entry?.label ?? step.step}</span>
                            <span className="min-w-0 flex-1 truncate text-soft">{entry?.meaning}</span>
                            <button type="button" aria-label={`Remove ${entry?.label ?? step.step}`} title="Remove" className="text-soft hover:text-ink" onClick={() => void editProp(prop.id, `Remove ${entry?.label ?? step.step}`, { [path]: steps.filter((_, i) => i !== k) })}><Trash2 size={13} aria-hidden /></button>
                        </div>
                        <Options prop={prop} path={`weights/${mapAt}/inTime/${k}`} options={entry?.options ?? []} values={step.values as Record<string, unknown>} label={entry?.label ?? step.step} />
                    </div>
                );
            })}
        </Section>
    );
}
