import type { Catalogue, Entry } from '../data/api';
import type { Stage } from '../data/ui';

/** Something an artist may look for: where it is done, what stands there, and other words for it. */
export interface Action {
    name: string;
    stage: Stage;
    /** What is shown and pointed at once the bench is there: a heading, a button, or the name of a field. */
    at: string;
    words?: readonly string[];
    /** Whether it is found where no prop is chosen. */
    alone?: boolean;
}

const PLAIN: readonly Action[] = [
    { name: 'Bring in a mesh, drawing or picture', stage: 'props', at: 'Choose a file', words: ['import', 'load', 'open', 'file', 'obj', 'stl', 'ply', 'glb', 'svg', 'png'], alone: true },
    { name: 'Strew copies of a prop over another', stage: 'props', at: 'Strew copies', words: ['scatter', 'copies', 'instances', 'leaves', 'duplicate', 'spread'], alone: true },
    { name: 'Fitness of a mesh: repair, rebuild', stage: 'props', at: 'Fitness', words: ['mend', 'fix', 'clean', 'holes', 'watertight', 'closed', 'crosses itself'] },
    { name: 'Prepare a mesh', stage: 'props', at: 'Preparation', words: ['remesh', 'subdivide', 'smooth', 'faces', 'resolution', 'triangles'] },
    { name: 'Where a prop stands: position, turn, size', stage: 'props', at: 'Place', words: ['move', 'rotate', 'scale', 'transform', 'location'] },
    { name: 'What a prop is made of', stage: 'props', at: 'Material', words: ['colour', 'color', 'texture', 'density', 'mass', 'weight', 'friction', 'bounce', 'roughness'] },
    { name: 'Keep what things of a material begin as', stage: 'props', at: 'Material', words: ['default', 'defaults', 'usual', 'save', 'standard'] },
    { name: 'A number the same as another: type = into it', stage: 'props', at: 'Place', words: ['link', 'tie', 'expression', 'reference', 'driven', 'connect', 'same as'] },
    { name: 'Swap the mesh of a prop for another', stage: 'props', at: 'Swap', words: ['replace', 'exchange'] },
    { name: 'Rename a prop', stage: 'props', at: 'Name', words: ['call', 'label'] },
    { name: 'One more of a prop, with its set-up', stage: 'props', at: 'One more beside it', words: ['duplicate', 'clone', 'again', 'copy'] },
    { name: 'Paste a copied prop, or only its break, motion, maps', stage: 'props', at: 'Copied', words: ['duplicate', 'transfer', 'set-up', 'clipboard', 'same as'] },
    { name: 'Remove a prop', stage: 'props', at: 'Remove from the shot', words: ['delete'] },
    { name: 'How many pieces', stage: 'break', at: 'Pieces', words: ['count', 'shards', 'fragments', 'number'] },
    { name: 'Another seed', stage: 'break', at: 'Seed', words: ['random', 'variation'] },
    { name: 'Sizes of the pieces', stage: 'break', at: 'Piece sizes', words: ['chart', 'distribution', 'slivers'] },
    { name: 'Spread pieces apart to look between them', stage: 'break', at: 'Spread apart', words: ['explode', 'see inside'] },
    { name: 'Let a prop fall', stage: 'break', at: 'Let it fall', words: ['drop', 'physics', 'gravity'] },
    { name: 'What a weight map does', stage: 'weights', at: 'What it does', words: ['appear', 'reveal', 'dissolve', 'second surface', 'relief', 'displacement', 'stand-in', 'morph'] },
    { name: 'Weights in time', stage: 'weights', at: 'In time', words: ['spread', 'lag', 'ripple', 'latch', 'fade', 'delay', 'grow', 'creep'] },
    { name: 'Fixed, keyed, free or drift', stage: 'motion', at: 'Kind of motion', words: ['physics', 'rigid', 'animate', 'simulate', 'static'] },
    { name: 'When pieces are let go', stage: 'motion', at: 'Release', words: ['start', 'trigger', 'activate', 'shockwave', 'touch', 'impact'] },
    { name: 'What follows: neighbours, lost support, anchors', stage: 'motion', at: 'What follows', words: ['chain', 'hold', 'pin'] },
    { name: 'What others meet: a simpler surface', stage: 'motion', at: 'What others meet', words: ['collider', 'collision', 'decimate', 'simplify'] },
    { name: 'Forces: wind, turbulence, swirl, still air, pull, drag, blast', stage: 'shot', at: 'Forces', words: ['air', 'gust', 'breeze', 'vortex', 'tornado', 'water', 'float', 'attract', 'repel', 'explosion', 'shock', 'slow', 'damping'], alone: true },
    { name: 'Groups of pieces', stage: 'motion', at: 'Groups', words: ['select', 'set'] },
    { name: 'Push pieces as they are let go', stage: 'motion', at: 'Push at release', words: ['velocity', 'explode', 'blast', 'spin', 'throw', 'force'] },
    { name: 'Hand drifting pieces over to physics', stage: 'motion', at: 'Hand over to physics', words: ['drift', 'rigid'] },
    { name: 'Place pieces by hand', stage: 'motion', at: 'Placed by hand', words: ['drift', 'end', 'target'] },
    { name: 'Key position and turn', stage: 'motion', at: 'Key position', words: ['keyframe', 'animate'] },
    { name: 'The docket of the bake', stage: 'bake', at: 'Docket', words: ['record', 'figures', 'energy', 'overlap', 'contacts', 'report'] },
    { name: 'Try values: a trial of several, baked and compared', stage: 'bake', at: 'Try values…', words: ['wedge', 'batch', 'variants', 'variations', 'seeds', 'compare', 'experiment'], alone: true },
    { name: 'Compare two bakes', stage: 'bake', at: 'Compare bakes', words: ['before', 'after', 'difference', 'ghost', 'overlay', 'side by side'], alone: true },
    { name: 'Presets: kept values of a bench', stage: 'break', at: 'Presets', words: ['template', 'library', 'save settings', 'reuse', 'style'] },
    { name: 'Hand the shot off', stage: 'hand-off', at: 'Write', words: ['export', 'save', 'glb', 'gltf', 'obj', 'stl', 'ply', 'download'] },
    { name: 'Rename the shot', stage: 'shot', at: 'Name', words: ['title'], alone: true },
    { name: 'Frames and rate', stage: 'shot', at: 'Frames', words: ['length', 'fps', 'duration', 'range', 'time'], alone: true },
    { name: 'The shot’s camera', stage: 'shot', at: 'Camera', words: ['lens', 'focal', 'view'], alone: true },
    { name: 'Line the camera up with the plate', stage: 'shot', at: 'Line up', words: ['match', 'solve', 'matchmove', 'perspective', 'survey', 'align'], alone: true },
    { name: 'Plate behind the props', stage: 'shot', at: 'Plate', words: ['footage', 'background', 'film', 'video', 'picture'], alone: true },
    { name: 'Notes on frames and props, as a list', stage: 'shot', at: 'Notes', words: ['comments', 'annotations', 'review', 'mark', 'draw', 'feedback'], alone: true },
    { name: 'Gravity', stage: 'shot', at: 'Gravity', words: ['weightless', 'fall'], alone: true },
    { name: 'Ground', stage: 'shot', at: 'Ground', words: ['floor', 'plane', 'friction', 'bounce'], alone: true },
    { name: 'Quality of the bake', stage: 'shot', at: 'Quality', words: ['sub-steps', 'accuracy', 'fast'], alone: true },
];

/** All that can be done, with what the catalogue has of shapes, patterns, steps, sources, pushes and moves. */
export function actionsOf(catalogue: Catalogue | undefined): Action[] {
    if (catalogue === undefined) return [...PLAIN];
    const each = (entries: Record<string, Entry>, name: (label: string) => string, stage: Stage, at: string | null, alone = false): Action[] =>
        Object.values(entries).map((e) => ({ name: name(e.label), stage, at: at ?? e.label, words: e.meaning === undefined ? [] : [e.meaning], alone }));
    return [
        ...PLAIN,
        ...each(catalogue.shapes, (l) => `Build: ${l.toLowerCase()}`, 'props', null, true),
        ...each(catalogue.steps, (l) => `Prepare: ${l.toLowerCase()}`, 'props', 'Preparation'),
        ...each(catalogue.patterns, (l) => `Break by ${l.toLowerCase()}`, 'break', null),
        ...each(catalogue.weights, (l) => `Weigh by ${l.toLowerCase()}`, 'weights', 'Sources'),
        ...each(catalogue.inTime, (l) => `Weights in time: ${l.toLowerCase()}`, 'weights', 'In time'),
        ...each(catalogue.pushes, (l) => `Push ${l.toLowerCase()}`, 'motion', 'Push at release'),
        ...each(catalogue.drifts, (l) => `Drift: ${l.toLowerCase()}`, 'motion', 'Moves'),
    ];
}
