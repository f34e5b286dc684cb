import { toast } from 'sonner';
import { useNavigate } from 'react-router';
import { api } from '../data/api';
import { said } from '../data/said';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';
import type { WallPicture } from '../data/wall';

/** Makes a variant the shot, and goes there. */
export function useChoose(shot: string): (picture: WallPicture) => Promise<void> {
    const go = useNavigate();
    return async (picture) => {
        try {
            const { revision } = useShot.getState().shot ?? (await api.shot(shot));
            useShot.setState({ shot: await api.chooseVariant(Number(picture.at.split('/')[1]), revision) });
            useUi.getState().set({ stage: 'bake', playing: false });
            toast('It is the shot now.', { description: 'Undo takes that back as one step.' });
            void go(`/shots/${shot}`);
        } catch (e) {
            said(e);
        }
    };
}
