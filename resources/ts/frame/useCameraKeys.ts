import { useHotkeys } from 'react-hotkeys-hook';
import { useUi } from '../data/ui';

/** The keys that turn, shift and near the view, of whatever draws it. */
export function useCameraKeys(enableOnFormTags: readonly ('slider' | 'radio')[]): void {
    const options = { preventDefault: true, enableOnFormTags };
    const push = (how: 'orbit' | 'pan' | 'zoom', x: number, y: number) => useUi.getState().set({ turned: { how, x, y, asked: useUi.getState().turned.asked + 1 } });
    useHotkeys('alt+left,alt+right,alt+up,alt+down,alt+shift+left,alt+shift+right,alt+shift+up,alt+shift+down', (e) => {
        const [x, y] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key] ?? [0, 0];
        push(e.shiftKey ? 'pan' : 'orbit', x!, y!);
    }, options);
    useHotkeys('alt+pageup,alt+pagedown', (e) => push('zoom', 0, e.key === 'PageUp' ? 1 : -1), options);
}
