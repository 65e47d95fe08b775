/** The typefaces of this server: those that ship, and the house's own. */
import { SHIPPED_FACES, type Face, type FontFile } from '$lib/core/faces';
import { shippedFontPath } from './shipped';

export class Faces {
  list(): readonly Face[] {
    return SHIPPED_FACES;
  }

  /** The house's own, with the file of each. */
  ownFiles(): readonly { readonly face: Face; readonly path: string }[] {
    return [];
  }

  /** `null` where there is no such file. */
  pathOf(file: FontFile): string | null {
    return shippedFontPath(file);
  }
}
