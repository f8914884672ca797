/** One way to change what the server holds: do it, read again what it touched, and say it in a sentence where it failed. */
import { useMutation, useQueryClient } from '@tanstack/react-query';

import { readAgain } from './again';
import { useNotices } from './notices';

type Keys = readonly (readonly unknown[])[];

/** `touched` are the keys of what is read again afterwards; everything, where none are given. */
export function useDoing<Asked = void, Answer = unknown>(
  touched: Keys | null,
  what: (asked: Asked) => Promise<Answer>,
  more: {
    key?: readonly unknown[];
    scope?: string;
    done?: (answer: Answer) => void;
    saidInPlace?: boolean;
  } = {},
) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  return useMutation({
    mutationFn: what,
    ...(more.key ? { mutationKey: more.key } : {}),
    ...(more.scope ? { scope: { id: more.scope } } : {}),
    onSuccess: async (answer) => {
      if (touched === null) await readAgain(queries);
      else await Promise.all(touched.map((queryKey) => readAgain(queries, queryKey)));
      more.done?.(answer);
    },
    onError: (error) => {
      if (!more.saidInPlace) tell(error.message);
    },
  });
}
