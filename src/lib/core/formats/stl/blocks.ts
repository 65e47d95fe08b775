/** Where things stand in the blocks of EBU STL, and the codes in their texts (EBU Tech 3264, 4 and 5). */
export const GSI_BYTES = 1024;
export const TTI_BYTES = 128;
/** The text of a block. */
export const TEXT_FROM = 16;
export const TEXT_BYTES = TTI_BYTES - TEXT_FROM;

export const CODES = {
  italicOn: 0x80,
  italicOff: 0x81,
  underlineOn: 0x82,
  underlineOff: 0x83,
  newLine: 0x8a,
  unused: 0x8f
} as const;

/** Rows of the picture that open subtitles count, from the top. */
export const ROWS = 23;
/** The last block of a subtitle has this number; up to 0xEF they follow each other. */
export const LAST_BLOCK = 0xff;
export const MOST_BLOCKS = 0xef;
export const USER_DATA = 0xfe;
