import { cutAtGreatestLength } from './greatest-length';

describe('cutAtGreatestLength', () => {
  const field = document.createElement('input');
  field.setAttribute('aria-label', 'name of Line 1');
  const typing = (value: string, data: string, at: readonly [number, number] = [value.length, value.length]) => {
    field.value = value;
    field.setSelectionRange(...at);
    let said: string | undefined;
    field.addEventListener('beforeinput', (event) => (said = cutAtGreatestLength(event)), { once: true });
    field.dispatchEvent(new InputEvent('beforeinput', { data, inputType: 'insertFromPaste' }));
    return said;
  };

  it('says what a field takes where more is typed or pasted', () => {
    field.maxLength = 5;
    expect(typing('FERN', 'S')).toBeUndefined();
    expect(typing('FERNS', 'X')).toBe('“name of Line 1” takes 5 characters; what is more was left out.');
    expect(typing('FERN', 'HOLLOW')).toContain('takes 5 characters');
  });

  it('counts what is replaced, and says nothing of fields without an end', () => {
    field.maxLength = 5;
    expect(typing('FERNS', 'GATES', [0, 5])).toBeUndefined();
    field.removeAttribute('maxlength');
    expect(typing('FERN', 'HOLLOW'.repeat(99))).toBeUndefined();
  });
});
