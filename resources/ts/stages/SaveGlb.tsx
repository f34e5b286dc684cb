import { useQueryClient } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { api } from '../data/api';
import { said } from '../data/said';
import { Button } from '../parts/controls';

/** Milliseconds between two looks at whether the file is written. */
const LOOK = 200;

/** Writes the baked shot as an animated GLB and saves it: the whole hand-off by one press. */
export function SaveGlb({ bake }: { bake: string }) {
    const [writing, setWriting] = useState(false);
    const queries = useQueryClient();
    const save = async () => {
        setWriting(true);
        try {
            const { id } = await api.handOff(bake, 'glb');
            for (;;) {
                const file = (await api.handOffs(bake)).sent.find((h) => h.id === id);
                if (file?.state === 'done') {
                    const link = document.createElement('a');
                    link.href = `api/hand-offs/${id}/file`;
                    link.download = file.file ?? '';
                    link.click();
                    break;
                }
                if (file?.state === 'failed') {
                    toast.error(file.problem?.message ?? 'The file could not be written.', { description: file.problem?.remedy });
                    break;
                }
                await new Promise((r) => setTimeout(r, LOOK));
            }
            await queries.invalidateQueries({ queryKey: ['hand-offs', bake] });
        } catch (e) {
            said(e);
        } finally {
            setWriting(false);
        }
    };
    return (
        <Button disabled={writing} onClick={() => void save()} hint="Writes all frames as one animated GLB; other formats are on the Hand-off stage">
            <Download size={13} aria-hidden /> {writing ? 'Writing…' : 'Save GLB'}
        </Button>
    );
}
