import { describe, expect, test } from 'vitest';
import { finishFromEngine, prepareForEngine } from '.';

const NAMES = ['Ines Calloway', 'Merrowby', 'Tower Clock Society', 'lower case'];
const speech = (text: string) => ({ text, kind: 'speech' as const });

/** What comes back where an engine changes nothing but what `change` does. */
function through(text: string, language: string, change: (sent: string) => string, unknown: readonly number[] = []) {
  const sentence = speech(text);
  const prepared = prepareForEngine(sentence, NAMES);
  return finishFromEngine(sentence, prepared, { text: change(prepared.text), unknown }, language);
}

describe('a sentence on its way to an engine', () => {
  test('keeps the names of the house, wherever they go', () => {
    const sent = prepareForEngine(speech('Ines Calloway winds the Merrowby clock for the Tower Clock Society.'), NAMES);
    expect(sent.text).not.toMatch(/Ines|Merrowby|Society/);
    const back = through('Ines Calloway winds the Merrowby clock.', 'es', (text) => {
      const [ines, , , merrowby] = text.split(' ');
      return `El reloj de ${merrowby} lo cuida ${ines}.`;
    });
    expect(back).toEqual({ text: 'El reloj de Merrowby lo cuida Ines Calloway.', unknown: [] });
  });

  test('is not taken where a name was lost', () => {
    expect(through('Ines Calloway winds it.', 'es', () => 'Lo cuida.')).toBeNull();
  });

  test('has its doubts at the words that they are of, behind names of several words too', () => {
    const back = through(
      'Ines Calloway oils the pallets.',
      'es',
      (text) => `${text.split(' ')[0]} engrasa los pallets.`,
      [0, 3]
    );
    expect(back).toEqual({ text: 'Ines Calloway engrasa los pallets.', unknown: [4] });
  });

  test('comes back with the capital, the end and the marks of its language', () => {
    expect(through('Do you hear it?', 'es', () => 'oyes')).toMatchObject({ text: '¿Oyes?' });
    expect(through('Do you hear it?', 'ca', () => 'el sents?')).toMatchObject({ text: 'El sents?' });
    expect(through('when it stops', 'es', () => 'Cuando para')).toMatchObject({ text: 'cuando para' });
  });

  test('is a sound between its brackets again', () => {
    const sound = { text: '[bell strikes]', kind: 'sound' as const };
    const prepared = prepareForEngine(sound, []);
    expect(prepared.text).toBe('bell strikes');
    expect(finishFromEngine(sound, prepared, { text: 'La campana suena', unknown: [0] }, 'es')).toEqual({
      text: '[la campana suena]',
      unknown: []
    });
  });
});
