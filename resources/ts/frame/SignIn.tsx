import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { api, ProblemError } from '../data/api';
import { useDoor } from '../data/door';
import { Button } from '../parts/controls';
import { Logo } from '../parts/Logo';

/** Asks for the pass phrase where the yard has one and this browser has not said it yet. */
export function SignIn() {
    const closed = useDoor((s) => s.closed);
    const [pass, setPass] = useState('');
    const [wrong, setWrong] = useState<string | null>(null);
    const open = async () => {
        try {
            await api.signIn(pass);
            location.reload();
        } catch (e) {
            if (!(e instanceof ProblemError)) throw e;
            setWrong(`${e.problem.message} ${e.problem.remedy}`);
        }
    };
    return (
        <Dialog.Root open={closed}>
            <Dialog.Portal>
                <Dialog.Overlay className="fixed inset-0 z-50 bg-[#1d2327]" />
                <Dialog.Content className="fixed top-1/2 left-1/2 z-50 w-[340px] -translate-x-1/2 -translate-y-1/2 bg-paper p-6" aria-describedby={undefined}>
                    <Logo />
                    <Dialog.Title className="mt-4 mb-2 font-semibold">The pass phrase of this yard</Dialog.Title>
                    <form onSubmit={(e) => { e.preventDefault(); void open(); }}>
                        <input type="password" autoFocus autoComplete="current-password" aria-label="Pass phrase" value={pass} onChange={(e) => setPass(e.target.value)} className="h-[31px] w-full border border-line bg-raised px-2" />
                        {wrong && <p role="alert" className="mt-2 text-wrong">{wrong}</p>}
                        <Button tone="loud" className="mt-3 w-full" onClick={() => void open()}>Come in</Button>
                    </form>
                </Dialog.Content>
            </Dialog.Portal>
        </Dialog.Root>
    );
}
