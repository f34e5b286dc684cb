import { useWall, type Beside } from '../data/wall';
import { Choice } from '../parts/controls';

/** How two pictures are held against each other; of more, the first can be seen in place of each. */
export function HowBeside() {
    const { shown, how } = useWall();
    if (shown.length < 2) return null;
    return (
        <div className="mt-2 flex flex-col gap-1.5">
            {shown.length === 2 && (
                <Choice<Beside>
                    label="Two of them"
                    value={how}
                    onChange={(v) => useWall.setState({ how: v })}
                    options={[{ value: 'beside', label: 'Side by side' }, { value: 'flip', label: 'Flip', hint: 'In one place: hold X for the first' }, { value: 'ghost', label: 'Ghost', hint: 'The first seen through the other' }]}
                />
            )}
            <p className="text-soft">Hold <kbd className="figure border border-line bg-raised px-1 text-[11px]">X</kbd> {shown.length === 2 && how === 'flip' ? 'to see the first.' : shown.length === 2 && how === 'ghost' ? 'to see the other alone.' : 'to see the first in place of each.'}</p>
        </div>
    );
}
