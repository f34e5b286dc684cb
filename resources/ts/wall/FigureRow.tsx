import { show } from '../data/quantity';
import { FIGURES, type FigureName, type Outcome } from '../data/trials';

/** A figure of a bake as it reads. */
export function figureIn(outcome: Outcome, figure: FigureName): string {
    switch (figure) {
        case 'rests': return outcome.rests !== null ? `at ${outcome.rests}` : outcome.moved ? 'not yet' : '–';
        case 'spread': return outcome.spread === null ? '–' : show(outcome.spread, 'm', 2);
        case 'energy': return show(outcome.energy, 'J', 2);
        case 'overlap': return show(outcome.overlap, 'm', 2);
        case 'seconds': return show(outcome.seconds, 's', 2);
        case 'pieces': return outcome.pieces.toLocaleString('en');
    }
}

/** What came of a bake, in a line or two. */
export function FigureRow({ outcome, small }: { outcome: Outcome | null; small: boolean }) {
    return (
        <dl className={`figure grid text-[11px] ${small ? 'grid-cols-[auto_auto_auto] justify-between gap-x-2' : 'grid-cols-6 gap-x-3'}`}>
            {FIGURES.map((f) => (
                <div key={f.name} title={f.hint} className={small ? 'flex justify-between gap-1' : ''}>
                    <dt className="truncate text-soft">{f.label}</dt>
                    <dd className="truncate font-medium">{outcome === null ? '…' : figureIn(outcome, f.name)}</dd>
                </div>
            ))}
        </dl>
    );
}
