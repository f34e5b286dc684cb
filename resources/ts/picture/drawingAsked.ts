import type { Drawing } from './Stagecraft';

/** How finely to draw: as fast as it goes, unless something in particular was asked for. */
export function drawingAsked(): Drawing {
    const asked = localStorage.getItem('picture');
    return asked === 'plain' || asked === 'fine' ? asked : 'paced';
}
