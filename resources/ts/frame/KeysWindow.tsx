import { Button, Window } from '../parts/controls';

const KEYS: [string, string][] = [
    ['1 … 6', 'Go to a stage'],
    ['0', 'What belongs to the shot: frames, camera, plate, ground'],
    ['Space', 'Play or stop'],
    ['← →', 'One frame back or on'],
    ['Shift ← →', 'To the cue before or after'],
    ['Home End', 'First or last frame that plays'],
    ['[ ]', 'Play from here; play to here'],
    ['Alt ← → ↑ ↓', 'Turn the view; with Shift, shift it'],
    ['Alt Page ↑ ↓', 'Nearer, farther'],
    ['K', 'Set a key here for the chosen prop'],
    ['Shift click', 'Pick several keys or pieces, or choose several props'],
    ['Ctrl drag', 'In the picture: a box round pieces of the chosen prop, or round props; Shift adds'],
    ['Alt drag a key', 'Copy it'],
    ['Ctrl wheel', 'On the cue sheet: show less or more of the shot; Shift: go along it'],
    ['Drag over lanes', 'Pick all keys in a box'],
    [', .', 'Picked keys a frame earlier, later; Shift: 5'],
    ['Ctrl A', 'Pick all keys; with Shift, from here on'],
    ['Ctrl C, Ctrl V', 'Copy picked keys, or the chosen prop; paste them here, a prop in other shots too'],
    ['Delete', 'Remove the picked keys; where none are, the chosen prop'],
    ['Ctrl D', 'One more of the chosen prop, with its set-up'],
    ['B', 'Bake'],
    ['F', 'Frame the chosen prop'],
    ['Ctrl Z', 'Undo'],
    ['Ctrl Shift Z', 'Redo'],
    ['Ctrl Alt Z', 'What was done, as a list'],
    ['Ctrl K', 'Find anything'],
    ['?', 'This list'],
    ['X', 'On a trial, or of two bakes: hold it to see the first in place of the others'],
    ['Double click a name', 'Its number as it was at first; so does an empty box'],
    ['= in a number', 'Make it the same as another of the shot'],
    ['↑ ↓ in a number', 'Step it; Shift ×10, Alt ÷10'],
    ['Enter in a number', 'Take it, and give the keys back to the stage'],
    ['Escape in a number', 'Put back what was there'],
];

export function KeysWindow({ open, onClose }: { open: boolean; onClose: () => void }) {
    return (
        <Window open={open} onClose={onClose} title="Keys">
            <dl data-print="" className="grid grid-cols-[140px_1fr] gap-y-1.5">
                {KEYS.map(([key, what]) => (
                    <div key={key} className="contents">
                        <dt className="figure text-[12px]">{key}</dt>
                        <dd>{what}</dd>
                    </div>
                ))}
            </dl>
            <div className="mt-4 flex justify-end print:hidden"><Button onClick={() => window.print()}>Print</Button></div>
        </Window>
    );
}
