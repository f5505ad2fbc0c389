import { TestBed } from '@angular/core/testing';
import { ReliefService } from '../relief/relief.service';
import type { PictureView } from '../relief/views';
import { PictureOfRelief } from './picture-of-relief';

const PICTURE: PictureView = { width: 2, height: 1, rgba: Uint8Array.of(1, 2, 3, 255, 4, 5, 6, 255) };

describe('PictureOfRelief', () => {
  let answers: ((picture: PictureView | undefined) => void)[];
  let made: number;
  let revoked: string[];
  let picture: PictureOfRelief;

  beforeEach(() => {
    answers = [];
    revoked = [];
    made = 0;
    // What a browser has and the test page lacks.
    Object.assign(globalThis, { ImageData: class {} });
    HTMLCanvasElement.prototype.getContext = (() => ({ putImageData: () => {} })) as never;
    HTMLCanvasElement.prototype.toBlob = ((done: (blob: Blob) => void) => done(new Blob(['png']))) as never;
    URL.createObjectURL = () => `blob:${++made}`;
    URL.revokeObjectURL = (address) => void revoked.push(address);
    const relief = { picture: () => new Promise((answer) => answers.push(answer)) };
    TestBed.configureTestingModule({ providers: [PictureOfRelief, { provide: ReliefService, useValue: relief }] });
    picture = TestBed.inject(PictureOfRelief);
  });

  it('gives the address of the newest picture and lets go of the one before', async () => {
    const first = picture.draw();
    answers[0](PICTURE);
    await first;
    expect(picture.address()).toBe('blob:1');
    const second = picture.draw();
    answers[1](PICTURE);
    await second;
    expect([picture.address(), revoked]).toEqual(['blob:2', ['blob:1']]);
    picture.ngOnDestroy();
    expect([picture.address(), revoked]).toEqual([undefined, ['blob:1', 'blob:2']]);
  });

  it('drops an older picture that comes after a newer one, and none at all', async () => {
    const [older, newer] = [picture.draw(), picture.draw()];
    answers[1](PICTURE);
    await newer;
    answers[0](PICTURE);
    await older;
    expect([picture.address(), made]).toEqual(['blob:1', 1]);
    const none = picture.draw();
    answers[2](undefined);
    await none;
    expect(picture.address()).toBe('blob:1');
  });
});
