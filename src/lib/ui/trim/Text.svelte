<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { untrack } from 'svelte';
  import { get } from 'svelte/store';
  import { firstWhere } from '$lib/core/bisect';
  import { formatClock } from '$lib/core/time';
  import type { JoinFault } from '$lib/core/trims';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { comparePlaces, isChosen, type Paragraph, type Place, type Token } from '$lib/client/trim/text';
  import { phrases } from './phrases';

  /** Words in playing order; what is taken out is struck through in its place. */
  const desk = useTrackDesk();
  const { trimming, player } = desk;
  let box = $state<HTMLElement | undefined>();
  const POLITE_MS = 3000;
  const LINE_PX = 30;
  const LINE_LETTERS = 85;
  const SPEAKER_PX = 22;
  const BETWEEN_PX = 14;
  /** The compiler drops the one between blocks. */
  const SPACE = ' ';
  let handAt = 0;

  const isEmpty = $derived(trimming.text.every(({ tokens }) => !tokens.some(isChosen)));
  const hesitating = $derived(new Set(trimming.offers.hesitations.flatMap(({ wordIds }) => wordIds)));

  export function focus(): void {
    box?.focus({ preventScroll: true });
  }

  const virtual = createVirtualizer<HTMLElement, HTMLElement>({
    ...{ count: 0, getScrollElement: () => box ?? null, estimateSize: () => LINE_PX },
    ...{ overscan: 5, paddingStart: 22, paddingEnd: 60 }
  });
  $effect(() => {
    const element = box;
    const { text } = trimming;
    untrack(() =>
      get(virtual).setOptions({
        count: text.length,
        getScrollElement: () => element ?? null,
        estimateSize: (at) => heightOf(text[at]!),
        getItemKey: (at) => text[at]!.key
      })
    );
  });
  /** About as high as it will be, before it is drawn. */
  const heightOf = ({ letters, speaker }: Paragraph): number =>
    (speaker === null ? 0 : SPEAKER_PX) + Math.ceil(letters / LINE_LETTERS) * LINE_PX + BETWEEN_PX;
  const measure = (element: HTMLElement): void => get(virtual).measureElement(element);

  const elementOf = (key: string): HTMLElement | null =>
    box?.querySelector<HTMLElement>(`[data-key="${CSS.escape(key)}"]`) ?? null;
  /** Into sight, as little as that needs. */
  function show(key: string): void {
    const element = elementOf(key);
    if (element !== null) return element.scrollIntoView({ block: 'nearest' });
    const place = trimming.placeOf(key);
    if (place === null) return;
    get(virtual).scrollToIndex(place.paragraph, { align: 'auto' });
    requestAnimationFrame(() => elementOf(key)?.scrollIntoView({ block: 'nearest' }));
  }

  const highlights = { chosen: new Highlight(), tried: new Highlight(), spoken: new Highlight() };
  $effect(() => {
    for (const [name, highlight] of Object.entries(highlights)) CSS.highlights.set(`trim-${name}`, highlight);
    return () => {
      for (const name of Object.keys(highlights)) CSS.highlights.delete(`trim-${name}`);
    };
  });

  function mark(highlight: Highlight, from: Element, to: Element = from): void {
    const range = new Range();
    range.setStartBefore(from);
    range.setEndAfter(to);
    highlight.add(range);
  }

  /** What is drawn of the tokens of some paragraphs, in their order. */
  const drawn = (from: number, to: number): { readonly element: HTMLElement; readonly place: Place }[] =>
    [...(box?.querySelectorAll<HTMLElement>('[data-index]') ?? [])].flatMap((element) => {
      const paragraph = Number(element.dataset.index);
      if (paragraph < from || paragraph > to) return [];
      return [...element.querySelectorAll<HTMLElement>('[data-key]')].map((one, at) => ({
        ...{ element: one, place: { paragraph, at } }
      }));
    });

  $effect(() => {
    const keys = trimming.choice?.keys ?? null;
    void [trimming.text, $virtual.getVirtualItems()];
    untrack(() => {
      highlights.chosen.clear();
      const places = keys?.map((key) => trimming.placeOf(key)).filter((place) => place !== null) ?? [];
      const [from, to] = places.sort(comparePlaces);
      if (from === undefined || to === undefined) return;
      // Paragraph by paragraph: their times and speakers are not chosen.
      const ends = new Map<number, [Element, Element]>();
      for (const { element, place } of drawn(from.paragraph, to.paragraph))
        if (comparePlaces(place, from) >= 0 && comparePlaces(place, to) <= 0)
          ends.set(place.paragraph, [ends.get(place.paragraph)?.[0] ?? element, element]);
      for (const [first, last] of ends.values()) mark(highlights.chosen, first, last);
    });
  });
  const chosenKey = $derived(trimming.choice?.keys?.[1]);
  $effect(() => {
    const key = chosenKey;
    if (key !== undefined) untrack(() => !player.isPlaying && show(key));
  });

  /** Words and pauses in what would go. */
  const isTried = $derived.by(() => {
    const sorted = (trimming.offers.tried ?? []).toSorted((a, b) => a.fromMs - b.fromMs);
    return (token: Token | undefined): boolean => {
      if (!isChosen(token) || token.state !== 'heard') return false;
      const middle = (token.fromMs + token.toMs) / 2;
      const span = sorted[firstWhere(sorted.length, (at) => sorted[at]!.toMs > middle)];
      return span !== undefined && span.fromMs <= middle;
    };
  });
  $effect(() => {
    void $virtual.getVirtualItems();
    const { text } = trimming;
    const isIn = isTried;
    untrack(() => {
      highlights.tried.clear();
      if (trimming.offers.tried === null) return;
      for (const { element, place } of drawn(0, text.length))
        if (isIn(text[place.paragraph]?.tokens[place.at])) mark(highlights.tried, element);
    });
  });
  $effect(() => {
    if (trimming.offers.tried?.length !== 1) return;
    const isIn = isTried;
    untrack(() => {
      for (const { tokens } of trimming.text) {
        const first = tokens.find(isIn);
        if (first !== undefined) return show(first.key);
      }
    });
  });

  let spokenKey: string | null = null;
  $effect(() => {
    void [trimming.text, $virtual.getVirtualItems()];
    spokenKey = null;
    return untrack(() =>
      player.onFrame(() => {
        const key = trimming.heardKey;
        if (key === spokenKey) return;
        spokenKey = key;
        highlights.spoken.clear();
        if (key === null) return;
        if (player.isPlaying && Date.now() - handAt > POLITE_MS) show(key);
        const element = elementOf(key);
        if (element !== null) mark(highlights.spoken, element);
      })
    );
  });

  // Choosing by hand: a click, or drawn over.
  let anchor: string | null = null;
  const keyAt = (event: Event): string | null =>
    (event.target as HTMLElement).closest<HTMLElement>('[data-key]')?.dataset.key ?? null;
  function press(event: PointerEvent): void {
    handAt = Date.now();
    const key = keyAt(event);
    if (key === null || event.button !== 0) return;
    const token = trimming.tokenOf(key);
    if (token?.kind === 'join') return trimming.joins.choose(token.pieceId);
    if (token === undefined) return;
    event.preventDefault();
    focus();
    const from = event.shiftKey ? (trimming.choice?.keys?.[0] ?? key) : key;
    anchor = from;
    trimming.choose(from, key, { seek: !event.shiftKey });
  }
  function draw(event: PointerEvent): void {
    if (anchor === null || event.buttons === 0) return;
    const key = keyAt(event);
    if (key !== null && key !== trimming.choice?.keys?.[1]) trimming.choose(anchor, key, { seek: false });
  }

  // A paragraph is dragged by its time.
  let over = $state<string | null>(null);
  function dragFrom(event: DragEvent, { tokens }: Paragraph): void {
    const own = tokens.filter(isChosen);
    if (own.length === 0) return event.preventDefault();
    trimming.choose(own[0]!.key, own.at(-1)!.key, { seek: false });
    trimming.pickUp();
    event.dataTransfer?.setData('text/plain', own[0]!.key);
  }
  function dropOn(event: DragEvent, { tokens }: Paragraph): void {
    event.preventDefault();
    over = null;
    const first = tokens.find((token) => isChosen(token) && token.state !== 'out');
    if (first !== undefined) trimming.putDown({ beforeKey: first.key });
  }
  const widthOf = (ms: number): number => Math.round(Math.min(120, 8 + ms / 35));
  const faults = (id: string): readonly JoinFault[] => trimming.joins.faultsOf.get(id) ?? [];
</script>

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="text"
  bind:this={box}
  tabindex="0"
  role="region"
  aria-label={phrases.text}
  data-surface
  data-testid="trim-text"
  onwheel={() => (handAt = Date.now())}
  onpointerdown={press}
  onpointermove={draw}
  onpointerup={() => (anchor = null)}
>
  {#if isEmpty}<p class="soft">{phrases.noWords}</p>{/if}
  <div style:height="{$virtual.getTotalSize()}px">
    {#each $virtual.getVirtualItems() as item (item.key)}
      {@const paragraph = trimming.text[item.index]}
      {#if paragraph !== undefined}
        <div
          class="paragraph"
          class:over={over === paragraph.key}
          role="group"
          data-index={item.index}
          {@attach measure}
          style:transform="translateY({item.start}px)"
          ondragover={(event) => {
            event.preventDefault();
            over = paragraph.key;
          }}
          ondragleave={() => (over = null)}
          ondrop={(event) => dropOn(event, paragraph)}
        >
          <span
            class="time mono"
            role="img"
            aria-label={paragraph.startMs === null ? '' : formatClock(paragraph.startMs)}
            draggable="true"
            ondragstart={(event) => dragFrom(event, paragraph)}
            >{paragraph.startMs === null ? '' : formatClock(paragraph.startMs)}</span
          >
          {#if paragraph.speaker !== null}<span class="speaker">{paragraph.speaker}</span>{/if}
          <p>
            {#each paragraph.tokens as token (token.key)}
              {#if token.kind === 'word'}<span
                  class={['word', token.state, hesitating.has(token.word.id) && 'hesitation']}
                  data-key={token.key}>{token.word.text}</span
                >{SPACE}
              {:else if token.kind === 'pause'}<span
                  class={['pause', token.state]}
                  data-key={token.key}
                  title={phrases.signs.pause(token.toMs - token.fromMs)}
                  ><i style:width="{widthOf(token.toMs - token.fromMs)}px"></i>{phrases.signs.short(
                    token.toMs - token.fromMs
                  )}</span
                >{SPACE}
              {:else if token.kind === 'put in'}<span
                  class="put-in"
                  data-key={token.key}
                  title={phrases.signs.putIn(token.lengthMs)}>+{phrases.signs.short(token.lengthMs)}</span
                >{SPACE}
              {:else}<button
                  class="join"
                  tabindex="-1"
                  class:heard={faults(token.pieceId).length > 0}
                  class:here={trimming.joins.hereId === token.pieceId}
                  data-key={token.key}
                  aria-label={phrases.signs.join(faults(token.pieceId))}
                  title={phrases.signs.join(faults(token.pieceId))}
                  >{faults(token.pieceId).length > 0 ? '!' : ''}</button
                >{/if}
            {/each}
          </p>
        </div>
      {/if}
    {/each}
  </div>
</div>

<style>
  .text {
    position: relative;
    padding: 0 40px 0 26px;
    overflow-y: auto;
    outline: none;
    font-size: 17px;
    line-height: 30px;
    user-select: none;
  }
  .paragraph {
    position: absolute;
    top: 0;
    right: 40px;
    left: 26px;
    max-width: 800px;
    padding: 0 0 14px 64px;
  }
  .paragraph.over::before {
    content: '';
    position: absolute;
    inset: 0 0 auto 64px;
    height: 3px;
    background: var(--grape);
  }
  .time {
    position: absolute;
    left: 0;
    width: 52px;
    color: var(--soft-ink);
    font-size: 14px;
    text-align: right;
    cursor: grab;
  }
  .speaker {
    display: block;
    color: var(--leaf);
    font-size: 14px;
    font-weight: 700;
    line-height: 22px;
  }
  .word {
    cursor: pointer;
  }
  .word.out,
  .word.gap {
    color: var(--soft-ink);
    text-decoration: line-through 1.5px;
  }
  .word.gap {
    text-decoration-style: double;
  }
  .word.silent {
    color: var(--soft-ink);
    text-decoration: overline dotted 2px;
  }
  .word.hesitation:not(.out) {
    text-decoration: underline dotted 2px var(--straw);
    text-underline-offset: 5px;
  }
  .pause {
    display: inline-flex;
    gap: 4px;
    align-items: center;
    padding: 0 3px;
    color: var(--soft-ink);
    font: 12px var(--mono);
    vertical-align: middle;
    cursor: pointer;
  }
  .pause i {
    height: 5px;
    border: 1px solid color-mix(in oklab, var(--soft-ink), transparent 25%);
    border-top: none;
  }
  .pause.out,
  .pause.gap {
    text-decoration: line-through;
  }
  .pause.out i {
    border-style: dotted;
  }
  .put-in {
    padding: 1px 7px;
    border-radius: 3px 9px;
    background: var(--pale-leaf);
    font: 13px var(--mono);
    vertical-align: middle;
  }
  .join {
    display: inline-block;
    width: 9px;
    height: 20px;
    margin-right: 5px;
    border-right: 3px double var(--leaf);
    color: var(--clay);
    font-size: 15px;
    font-weight: 700;
    line-height: 20px;
    vertical-align: middle;
  }
  .join.heard {
    border-right-color: var(--clay);
  }
  .join.here {
    background: var(--pale-leaf);
  }
  :global(::highlight(trim-chosen)) {
    background-color: color-mix(in oklab, var(--leaf), transparent 70%);
  }
  :global(::highlight(trim-tried)) {
    background-color: color-mix(in oklab, var(--straw), transparent 62%);
  }
  :global(::highlight(trim-spoken)) {
    color: var(--on-grape);
    background-color: var(--grape);
  }
</style>
