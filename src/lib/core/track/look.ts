/**
 * How captions look, and who says so: a track has a whole look, its speakers and its cues override single values of it.
 * Lengths in em are shares of the letters' size.
 */
import { z } from 'zod';

/** Where on the picture: nine points within the margin. */
export const pointSchema = z.enum([
  'top left',
  'top centre',
  'top right',
  'middle left',
  'middle centre',
  'middle right',
  'bottom left',
  'bottom centre',
  'bottom right'
]);
export type Point = z.infer<typeof pointSchema>;

/** The middle of the captions, in hundredths of the picture from its top left. */
const spotSchema = z
  .strictObject({ xPercent: z.number().min(0).max(100), yPercent: z.number().min(0).max(100) })
  .readonly();
export type Spot = z.infer<typeof spotSchema>;

/** One of nine points, or any spot. */
export const placementSchema = z.union([pointSchema, spotSchema]);
export type Placement = z.infer<typeof placementSchema>;

/** A colour as `#rrggbb`, in sRGB. */
export const colorSchema = z
  .string()
  .regex(/^#[0-9a-fA-F]{6}$/, 'A colour is written as # and six hexadecimal figures.')
  .toLowerCase();

/** How a cue comes and goes. */
export const arrivalSchema = z.enum(['cut', 'fade', 'rise']);
export type Arrival = z.infer<typeof arrivalSchema>;

/** The values of each group that a look holds in one. */
const OUTLINE = { color: colorSchema, widthEm: z.number().min(0).max(0.5) };
const SHADOW = {
  color: colorSchema,
  xEm: z.number().min(-1).max(1),
  yEm: z.number().min(-1).max(1),
  blurEm: z.number().min(0).max(1)
};
const BOX = {
  /** Behind each line, or one behind all. */
  kind: z.enum(['none', 'line', 'block']),
  color: colorSchema,
  opacity: z.number().min(0).max(1),
  /** Beside the letters; above and below them it is half of it. */
  paddingEm: z.number().min(0).max(2),
  roundingEm: z.number().min(0).max(2)
};
const MOTION = {
  come: arrivalSchema,
  go: arrivalSchema,
  /** How long it takes to come, and to go. */
  lengthMs: z.int().min(0).max(5000),
  /** How the words follow the voice: they appear as they are spoken, or the spoken one has another colour or a box. */
  follow: z.enum(['none', 'appear', 'color', 'box']),
  followColor: colorSchema
};

/** The values that stand alone. */
const PLAIN = {
  /** Id of a typeface. */
  face: z.string().min(1).max(100),
  weight: z.int().min(100).max(900),
  italic: z.boolean(),
  /** Size of the letters, in hundredths of the picture's height. */
  sizePercent: z.number().min(1).max(30),
  letterSpacingEm: z.number().min(-0.1).max(0.5),
  /** From one line's base to the next, as a multiple of the size. */
  lineSpacing: z.number().min(0.8).max(3),
  color: colorSchema,
  /** Of the lines among each other, along the reading direction. */
  align: z.enum(['start', 'centre', 'end']),
  placement: placementSchema,
  /** The widest a line may be, in hundredths of the picture's width. */
  widestPercent: z.number().min(10).max(100),
  /** Kept free at the picture's edges, in hundredths of its width and height. */
  marginPercent: z.number().min(0).max(20),
  capitals: z.enum(['as written', 'all'])
};

type Plain = { readonly [K in keyof typeof PLAIN]: z.infer<(typeof PLAIN)[K]> };
type Group<S extends z.ZodRawShape> = z.infer<z.ZodReadonly<z.ZodObject<S>>>;

export interface Look extends Plain {
  /** `null`, and a width of 0: none. */
  readonly outline: Group<typeof OUTLINE> | null;
  /** `null`, and all lengths of 0: none. */
  readonly shadow: Group<typeof SHADOW> | null;
  readonly box: Group<typeof BOX>;
  readonly motion: Group<typeof MOTION>;
}

/** The look of a track that has not been given one. */
export const HOUSE_LOOK: Look = {
  face: 'atkinson',
  weight: 600,
  italic: false,
  sizePercent: 7,
  letterSpacingEm: 0,
  lineSpacing: 1.25,
  color: '#ffffff',
  outline: null,
  shadow: null,
  box: { kind: 'line', color: '#0f110e', opacity: 0.86, paddingEm: 0.4, roundingEm: 0.12 },
  align: 'centre',
  placement: 'bottom centre',
  widestPercent: 90,
  marginPercent: 5,
  capitals: 'as written',
  motion: { come: 'cut', go: 'cut', lengthMs: 200, follow: 'none', followColor: '#f2c14e' }
};

/** What a group begins with where only some of its values are set. */
const GROUP_BASES = {
  outline: { color: '#000000', widthEm: 0.06 },
  shadow: { color: '#000000', xEm: 0.04, yEm: 0.04, blurEm: 0.06 },
  box: HOUSE_LOOK.box,
  motion: HOUSE_LOOK.motion
} as const;
type GroupKey = keyof typeof GROUP_BASES;

const GROUPS = { outline: OUTLINE, shadow: SHADOW, box: BOX, motion: MOTION };
export const LOOK_GROUPS = Object.keys(GROUPS) as readonly GroupKey[];
const isGroup = (key: string): key is GroupKey => key in GROUPS;
const LOOK_KEYS = Object.keys(HOUSE_LOOK) as readonly (keyof Look)[];

const shapeOf = (of: (schema: z.ZodType, key: string, within: object) => z.ZodType): z.ZodRawShape =>
  Object.fromEntries(
    LOOK_KEYS.map((key) => [
      key,
      isGroup(key)
        ? of(
            z.strictObject(
              Object.fromEntries(
                Object.entries<z.ZodType>(GROUPS[key]).map(([name, schema]) => [
                  name,
                  of(schema, name, GROUP_BASES[key])
                ])
              )
            ),
            key,
            HOUSE_LOOK
          )
        : of(PLAIN[key], key, HOUSE_LOOK)
    ])
  );

/** A whole look; what an earlier one did not have is as the house's. */
export const lookSchema = z
  .strictObject(
    shapeOf((schema, key, within) => {
      const usual = (within as Readonly<Record<string, unknown>>)[key];
      const nullable = key === 'outline' || key === 'shadow' ? schema.nullable() : schema;
      return nullable.default(usual as never);
    })
  )
  .readonly() as unknown as z.ZodType<Look, Partial<Look>>;

type GroupOf<K extends GroupKey> = NonNullable<Look[K]>;

/** Single values of a look that stand in place of what the track, or the speaker, has; never empty. */
export type LookOverrides = { readonly [K in keyof Plain]?: Plain[K] } & {
  readonly [K in GroupKey]?: { readonly [V in keyof GroupOf<K>]?: GroupOf<K>[V] };
};
export const lookOverridesSchema = z
  .strictObject(shapeOf((schema) => schema.optional()))
  .readonly() as unknown as z.ZodType<LookOverrides>;

/** Values to be set; those that are `null` fall back again. */
export type LookChange = { readonly [K in keyof Plain]?: Plain[K] | null } & {
  readonly [K in GroupKey]?: { readonly [V in keyof GroupOf<K>]?: GroupOf<K>[V] | null } | null;
};
export const lookChangeSchema = z
  .strictObject(shapeOf((schema) => schema.nullable().optional()))
  .readonly() as unknown as z.ZodType<LookChange>;

type Values = Readonly<Record<string, unknown>>;

/** The overrides after a change, their values in the schema's order; `null` where none is left. */
export function changeOverrides(overrides: LookOverrides | null, change: LookChange): LookOverrides | null {
  const before = (overrides ?? {}) as Values;
  const asked = change as Values;
  const after: Record<string, unknown> = {};
  for (const key of LOOK_KEYS) {
    const value = isGroup(key)
      ? changedGroup(key, before[key] as Values | undefined, asked[key] as Values | null | undefined)
      : asked[key] === undefined
        ? before[key]
        : (asked[key] ?? undefined);
    if (value !== undefined) after[key] = value;
  }
  return Object.keys(after).length === 0 ? null : after;
}

function changedGroup(key: GroupKey, before: Values = {}, change: Values | null = {}): Values | undefined {
  if (change === null) return undefined;
  const after: Record<string, unknown> = {};
  for (const name of Object.keys(GROUPS[key])) {
    const value = change[name] === undefined ? before[name] : (change[name] ?? undefined);
    if (value !== undefined) after[name] = value;
  }
  return Object.keys(after).length === 0 ? undefined : after;
}

/** A whole look after a change; values that fall back are the house's again. */
export function changeLook(look: Look, change: LookChange): Look {
  const asked = change as Values;
  const house: Values = Object.fromEntries(
    LOOK_KEYS.flatMap((key): [string, unknown][] => {
      const value = asked[key];
      if (value === null) return [[key, HOUSE_LOOK[key]]];
      if (!isGroup(key) || value === undefined) return [];
      const names = Object.entries(value as Values).filter(([, inner]) => inner === null);
      const base = { ...(look[key] ?? GROUP_BASES[key]) };
      return names.length === 0
        ? []
        : [
            [key, { ...base, ...Object.fromEntries(names.map(([name]) => [name, (GROUP_BASES[key] as Values)[name]])) }]
          ];
    })
  );
  return overrideLook({ ...look, ...house }, changeOverrides(null, change));
}

/** A look with values of it overridden. */
export function overrideLook(look: Look, ...layers: readonly (LookOverrides | null)[]): Look {
  let resolved: Values = { ...look };
  for (const layer of layers) {
    if (layer === null) continue;
    const next: Record<string, unknown> = { ...resolved };
    for (const [key, value] of Object.entries(layer))
      next[key] = isGroup(key)
        ? { ...GROUP_BASES[key], ...(resolved[key] as object | null), ...(value as object) }
        : value;
    resolved = next;
  }
  return resolved as unknown as Look;
}

/** The names of the values that are overridden, those of groups as `box.opacity`. */
export const overriddenValues = (overrides: LookOverrides | null): readonly string[] =>
  Object.entries(overrides ?? {}).flatMap(([key, value]) =>
    isGroup(key) ? Object.keys(value).map((name) => `${key}.${name}`) : [key]
  );

/** A width of 0 is none: so does a closer one say that it has no outline. */
export const hasOutline = (look: Pick<Look, 'outline'>): boolean => look.outline !== null && look.outline.widthEm > 0;

/** One that lies exactly behind the letters is none. */
export const hasShadow = ({ shadow }: Pick<Look, 'shadow'>): boolean =>
  shadow !== null && (shadow.xEm !== 0 || shadow.yEm !== 0 || shadow.blurEm > 0);
