import type { PatchStep } from './api';
import type { ShotDocument } from './document';
import { isKeyed, knotsOf } from './track';
import type { Moments } from './track';
import type { Stage } from './ui';

/** What of the page a lesson goes by. */
export interface Seen {
    document: ShotDocument;
    moments: Moments;
    /** The change that would be undone. */
    undo: string | null;
    stage: Stage;
    frame: number;
    playing: boolean;
    spread: number;
    bake: { state: string } | null;
    /** Where on the site one is. */
    path: string;
}

export interface Step {
    words: string;
    /** CSS selector of what it is done with, or its name on the bench. */
    at?: string;
    named?: string;
    /** Whether it has been done; where it is not said, the reader says so. */
    done?: (seen: Seen) => boolean;
}

export interface Lesson {
    id: string;
    name: string;
    /** What one can do after it. */
    teaches: string;
    /** What the demo's jar is made into, to begin with. */
    begin: PatchStep[];
    steps: readonly Step[];
}

const stage = (at: number) => `nav[aria-label="Stages"] button:nth-of-type(${at})`;

const jar = (seen: Seen) => seen.document.props[0];

const fixed: PatchStep = { op: 'replace', path: '/props/0/motion', value: { kind: 'fixed' } };

const pieces = (count: number): PatchStep => ({ op: 'replace', path: '/props/0/break', value: { pattern: 'cells', values: { count, seed: 3 } } });

/** Stood on the flags instead of thrown. */
const stood: PatchStep[] = [{ op: 'replace', path: '/props/0/place/position', value: [0, 0.05, 0] }, { op: 'replace', path: '/props/0/place/turn', value: [0, 0, 0] }];

const baked = (seen: Seen) => seen.bake !== null && seen.bake.state === 'done';

const BAKE: Step = { words: 'Press Bake, or B. Every frame is worked out, once; it plays as far as it has come.', named: 'Bake', done: (s) => s.bake !== null };

const watch = (words: string): Step => ({ words, at: '[aria-label="Play"]', done: (s) => baked(s) && s.playing });

/** Five short lessons, each done on the page itself. */
export const LESSONS: readonly Lesson[] = [
    {
        id: 'break',
        name: 'Break a jar',
        teaches: 'Patterns, pieces, and a look between them.',
        begin: [{ op: 'replace', path: '/props/0/break', value: null }, fixed],
        steps: [
            { words: 'The order of work is on the left: six stages, from props to hand-off. Go to Break.', at: stage(2), done: (s) => s.stage === 'break' },
            { words: 'Each pattern breaks in a way of its own. Choose Cells: solid chunks.', at: '[role="radio"][title^="Solid chunks"]', done: (s) => jar(s)?.break?.pattern === 'cells' },
            { words: 'How many? Type 200 into Pieces, and Enter. A number can also be dragged on its name, or be a sum: 10*20.', at: 'input[aria-label="Pieces"]', done: (s) => Number((jar(s)?.break?.values as { count?: number } | undefined)?.count ?? 0) >= 150 },
            { words: 'Look between them: drag Spread apart. That is in the picture only; the jar stays as it is.', at: '[aria-label="Spread apart slider"]', done: (s) => s.spread > 0.1 },
        ],
    },
    {
        id: 'fall',
        name: 'Let it fall',
        teaches: 'Motion, the bake, and playing it.',
        begin: [pieces(60), fixed],
        steps: [
            { words: 'The jar hangs over the flags, in sixty pieces. What moves, and how, is on Motion.', at: stage(4), done: (s) => s.stage === 'motion' },
            { words: 'Fixed, it stays where it is. Choose Free: from now on forces move it.', at: '[aria-label="How it moves"]', done: (s) => jar(s)?.motion.kind === 'free' },
            { words: 'It goes on touch: it falls whole, and breaks where it lands. Let it hit harder: type 1.6 into Position y, under Place.', at: 'input[aria-label="Position y"]', done: (s) => Number(jar(s)?.place.position[1]) >= 1.4 },
            BAKE,
            watch('Play it with Space when it is done. What the bake found stands in its docket, with the figures.'),
        ],
    },
    {
        id: 'weights',
        name: 'Let a map decide',
        teaches: 'Weight maps, and letting pieces go by one.',
        begin: [pieces(80), { op: 'replace', path: '/props/0/motion', value: { kind: 'free', release: { on: 'frame', frame: 0 }, values: { held: 'still' } } }, ...stood],
        steps: [
            { words: 'All pieces of this jar are let go at once. A map can say which go when. Go to Weights.', at: stage(3), done: (s) => s.stage === 'weights' },
            { words: 'Begin a map with Front, on the bench: a line that passes over the jar, frame by frame.', named: 'Front', done: (s) => (jar(s)?.weights ?? []).length > 0 },
            { words: 'Drag the playhead along the cue sheet: dark is full weight, and it moves.', at: '[aria-label="Playhead"]', done: (s) => s.frame >= 12 },
            { words: 'Now use it. On Motion, choose under Let go: by a weight map.', at: '[aria-label="Let go"]', done: (s) => jar(s)?.motion.release?.on === 'weight' },
            BAKE,
            watch('Play it: pieces go where the front has come to.'),
        ],
    },
    {
        id: 'time',
        name: 'Keys and cues',
        teaches: 'Numbers that change over the frames, and named moments.',
        begin: [pieces(40), fixed, ...stood],
        steps: [
            { words: 'Go to Motion and press the small diamond beside Position x: it is keyed here.', at: '[aria-label^="Key Position x"]', done: (s) => isKeyed(jar(s)?.place.position[0]) },
            { words: 'Go on to about frame 24: drag the playhead, or click on the ruler.', at: '[aria-label="Playhead"]', done: (s) => s.frame >= 16 },
            { words: 'Move the jar: drag the red arrow in the picture, or type another Position x. It has keys, so this makes one.', at: 'input[aria-label="Position x"]', done: (s) => keys(s) > 1 },
            { words: 'Give this moment a name: + Cue, above the lanes. Keys and releases can hang on it, and move with it.', at: 'button[title^="A named moment"]', done: (s) => (s.document.cues ?? []).length > 0 },
            { words: 'Play it with Space. The curve between keys is opened by the word curve, below the number.', at: '[aria-label="Play"]', done: (s) => s.playing },
        ],
    },
    {
        id: 'try',
        name: 'Try, compare, choose',
        teaches: 'Variants beside each other, and undo as a list.',
        begin: [pieces(40)],
        steps: [
            { words: 'Which seed breaks best? On Bake, press Try values…', at: stage(5), done: (s) => s.stage === 'bake' },
            { words: 'Press Try values…, choose Seed of Jar, write 1–4, and bake them. The shot itself stays as it is.', named: 'Try values…', done: (s) => s.path.includes('/trials/') },
            { words: 'All of them play in step, with their figures below; hold X to see the first in place of the others. Press Choose under the one you like.', at: '#wall li button', done: (s) => s.undo?.startsWith('Choose') === true },
            { words: 'It is the shot now, as one change. What was done is a list, with pictures: the third button beside undo. Go back to any of it.', at: '[aria-label="What was done"]' },
        ],
    },
];

function keys(seen: Seen): number {
    const x = jar(seen)?.place.position[0];
    return isKeyed(x) ? knotsOf(x, seen.moments).length : 0;
}

/** The first step from one on that is not done yet; their number where all are. */
export function stepAt(lesson: Lesson, from: number, seen: Seen): number {
    let at = from;
    while (at < lesson.steps.length && lesson.steps[at]!.done?.(seen) === true) at++;
    return at;
}
