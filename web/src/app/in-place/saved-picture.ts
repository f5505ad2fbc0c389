import { type PlaceGround } from '@plain-relief/core/in-place';
import type { PlacePicture } from './place-desk';

/** Gives a picture of a place to whoever looks at it, as a PNG file: over its photograph where it has one. @throws Error with a sentence */
export async function savedPicture(ground: PlaceGround, picture: PlacePicture, title: string): Promise<void> {
  const { width, height, rgba } = picture;
  const signs = await createImageBitmap(new ImageData(rgba, width, height));
  const [w, h] = ground.kind === 'photograph' ? [ground.width, ground.height] : [width, height];
  const canvas = new OffscreenCanvas(w, h);
  const context = canvas.getContext('2d')!;
  if (ground.kind === 'photograph') {
    const answer = await fetch(`/api/files/${ground.file}/picture`);
    if (!answer.ok) throw new Error('The photograph did not come: try again.');
    context.drawImage(await createImageBitmap(await answer.blob()), 0, 0, w, h);
  }
  context.drawImage(signs, 0, 0, w, h);
  const address = URL.createObjectURL(await canvas.convertToBlob({ type: 'image/png' }));
  const link = document.createElement('a');
  link.href = address;
  link.download = `${title.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-+|-+$/gu, '') || 'in-place'}.png`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}
