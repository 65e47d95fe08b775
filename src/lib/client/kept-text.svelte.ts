/** Text of a form that belongs to no document yet: this browser keeps it at each key, until it is sent or emptied. */
const keyOf = (field: string): string => `vinetap:text:${field}`;

/** What was typed into the field and not sent; `null` for nothing. */
export const keptText = (field: string): string | null => localStorage.getItem(keyOf(field));

/** `null` or no text: there is nothing to keep. */
export function keepText(field: string, text: string | null): void {
  try {
    if (text === null || text === '') localStorage.removeItem(keyOf(field));
    else localStorage.setItem(keyOf(field), text);
  } catch {
    // Without room in storage the text is only in the page.
  }
}

/** A field whose text is kept at each key. Setting it to nothing forgets it. */
export class KeptField {
  readonly #field: string;
  #text = $state('');

  constructor(field: string) {
    this.#field = field;
    this.#text = keptText(field) ?? '';
  }

  get text(): string {
    return this.#text;
  }
  set text(text: string) {
    this.#text = text;
    keepText(this.#field, text);
  }
  /** It has been sent: the text stays on the screen and is kept no longer. */
  forget(): void {
    keepText(this.#field, null);
  }
}
