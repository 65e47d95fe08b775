import { keptFile } from '../kept';
import { ownLookSchema, type OwnLook } from './kept';

const file = keptFile('look', ownLookSchema);

export const formatLooksFile = (looks: readonly OwnLook[]): string =>
  file.format(looks.map(({ name, look }) => ({ name, look })));
export const parseLooksFile = file.parse;
