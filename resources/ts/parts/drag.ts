/**
 * Follows the pointer from a press until it is let go, wherever it goes meanwhile. Listening on the window does
 * this also where a browser under automation does not capture the pointer.
 */
export function followPointer(move: (e: PointerEvent) => void, end: (e: PointerEvent) => void = () => {}): void {
    const stop = (e: PointerEvent) => {
        window.removeEventListener('pointermove', move);
        window.removeEventListener('pointerup', stop);
        window.removeEventListener('pointercancel', stop);
        end(e);
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', stop);
    window.addEventListener('pointercancel', stop);
}
