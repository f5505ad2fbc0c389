import type { WritableSignal } from '@angular/core';

/** Does something, and says why where it did not work. @returns whether it worked */
export async function attempt(trouble: WritableSignal<string>, act: () => Promise<unknown>): Promise<boolean> {
  trouble.set('');
  try {
    await act();
    return true;
  } catch (error) {
    trouble.set((error as Error).message);
    return false;
  }
}
