/** The workshop's unit: read before the page is drawn, said anew for every device that opens it. */
import { useMutation } from '@tanstack/react-query';

import { ask, client } from '../api/client';
import { useNotices } from '../api/notices';
import { region } from '../kit/region';
import { useUnit, type Unit } from '../kit/units';

/** What the workshop measures in; one that has not said so yet takes what is usual where its maker lives. */
export async function readUnit(): Promise<void> {
  const usual = await ask(client.GET('/api/usual'));
  if (usual.unit) {
    useUnit.getState().use(usual.unit);
    return;
  }
  const { regions } = await ask(client.GET('/api/catalog'));
  const unit: Unit = regions.inches.includes(region()) ? 'in' : 'mm';
  await ask(client.PUT('/api/usual', { body: { ...usual, unit } }));
  useUnit.getState().use(unit);
}

/** Measure in another unit from now on. */
export function useKeepUnit() {
  const tell = useNotices((state) => state.tell);
  return useMutation({
    mutationFn: async (unit: Unit) => {
      const usual = await ask(client.GET('/api/usual'));
      await ask(client.PUT('/api/usual', { body: { ...usual, unit } }));
      return unit;
    },
    onSuccess: (unit) => useUnit.getState().use(unit),
    onError: (error) => tell(error.message),
  });
}
