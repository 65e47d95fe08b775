<script lang="ts">
  import { untrack } from 'svelte';
  import { firstWhere } from '$lib/core/bisect';
  import { formatClock } from '$lib/core/time';
  import type { JoinFault } from '$lib/core/trims';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { isChosen, type ChosenToken, type Paragraph, type Token } from '$lib/client/trim/text';
  import { phrases } from './phrases';

  /** Words in playing order; what is taken out is struck through in its place. */
  const desk = useTrackDesk();
  const { trimming, player } = desk;
  let box = $state<HTMLElement | undefined>();
  const POLITE_MS = 3000;
  /** The compiler drops the one between blocks. */
  const SPACE = ' ';
  let handAt = 0;

  const isEmpty = $derived(trimming.text.every(({ tokens }) => !tokens.some(isChosen)));
  const hesitating = $derived(new Set(trimming.offers.hesitations.flatMap(({ wordIds }) => wordIds)));
  const faultsOf = $derived(new Map(trimming.joins.list.map(({ afterId, faults }) => [afterId, faults])));

  export function focus(): void {
    box?.focus({ preventScroll: true });
  }

  const elementOf = (key: string): HTMLElement | null =>
    box?.querySelector<HTMLElement>(`[data-key="${CSS.escape(key)}"]`) ?? null;

  const chosen = new Highlight();
  const tried = new Highlight();
  const spoken = new Highlight();
  $effect(() => {
    CSS.highlights.set('trim-chosen', chosen);
    CSS.highlights.set('trim-tried', tried);
    CSS.highlights.set('trim-spoken', spoken);
    return () => {
      for (const name of ['trim-chosen', 'trim-tried', 'trim-spoken']) CSS.highlights.delete(name);
    };
  });

  function mark(highlight: Highlight, from: HTMLElement | null, to: HTMLElement | null): void {
    if (from === null || to === null) return;
    const range = new Range();
    range.setStartBefore(from);
    range.setEndAfter(to);
    highlight.add(range);
  }

  $effect(() => {
    const keys = trimming.choice?.keys ?? null;
    void trimming.text;
    untrack(() => {
      chosen.clear();
      if (keys === null) return;
      const [from, to] = keys.map(elementOf) as [HTMLElement | null, HTMLElement | null];
      if (from === null || to === null) return;
      const isForward = (from.compareDocumentPosition(to) & Node.DOCUMENT_POSITION_PRECEDING) === 0;
      mark(chosen, isForward ? from : to, isForward ? to : from);
      if (!player.isPlaying) to.scrollIntoView({ block: 'nearest' });
    });
  });

  /** Words and pauses in what would go. */
  $effect(() => {
    const spans = trimming.offers.tried;
    const { tokens } = trimming;
    untrack(() => {
      tried.clear();
      if (spans === null || spans.length === 0) return;
      // Asked for one by one, each would be looked for in all of the text.
      const elements = new Map(
        [...(box?.querySelectorAll<HTMLElement>('[data-key]') ?? [])].map((element) => [element.dataset.key, element])
      );
      const sorted = spans.toSorted((a, b) => a.fromMs - b.fromMs);
      let first: Token | null = null;
      for (const token of tokens) {
        if (!isChosen(token)) continue;
        const middle = (token.fromMs + token.toMs) / 2;
        const span = sorted[firstWhere(sorted.length, (at) => sorted[at]!.toMs > middle)];
        const isIn = span !== undefined && span.fromMs <= middle && token.state === 'heard';
        if (!isIn) continue;
        const element = elements.get(token.key) ?? null;
        mark(tried, element, element);
        first ??= token;
      }
      if (first !== null && spans.length === 1) elementOf(first.key)?.scrollIntoView({ block: 'center' });
    });
  });

  /** The word that is heard: found among those that play, without a walk through all. */
  let spokenKey: string | null = null;
  $effect(() => {
    const heard = trimming.tokens.filter(isChosen).filter(({ kind, state }) => kind === 'word' && state === 'heard');
    const { map } = trimming;
    if (map === null) return;
    const starts = new Map<string, ChosenToken[]>();
    for (const token of heard) {
      const own = starts.get(token.pieceId);
      if (own === undefined) starts.set(token.pieceId, [token]);
      else own.push(token);
    }
    return untrack(() =>
      player.onFrame(() => {
        const nowMs = trimming.nowMs;
        const laid = map.laid[map.indexAt(nowMs)];
        const recordedMs = map.recordedAt(nowMs);
        const own = laid === undefined ? [] : (starts.get(laid.piece.id) ?? []);
        const behind = firstWhere(own.length, (at) => own[at]!.fromMs > (recordedMs ?? -1));
        const key = own[behind - 1]?.key ?? null;
        if (key === spokenKey) return;
        spokenKey = key;
        spoken.clear();
        const element = key === null ? null : elementOf(key);
        mark(spoken, element, element);
        if (player.isPlaying && Date.now() - handAt > POLITE_MS) element?.scrollIntoView({ block: 'nearest' });
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
    const token = trimming.tokens.find((one) => one.key === key);
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
  const faults = (id: string): readonly JoinFault[] => faultsOf.get(id) ?? [];
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
  {#each trimming.text as paragraph (paragraph.key)}
    <div
      class="paragraph"
      class:over={over === paragraph.key}
      role="group"
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
              class:here={trimming.joins.list[trimming.joins.at]?.afterId === token.pieceId}
              data-key={token.key}
              aria-label={phrases.signs.join(faults(token.pieceId))}
              title={phrases.signs.join(faults(token.pieceId))}>{faults(token.pieceId).length > 0 ? '!' : ''}</button
            >{/if}
        {/each}
      </p>
    </div>
  {/each}
</div>

<style>
  .text {
    padding: 22px 40px 60px 26px;
    overflow-y: auto;
    outline: none;
    font-size: 17px;
    line-height: 30px;
    user-select: none;
  }
  .paragraph {
    position: relative;
    max-width: 800px;
    margin-bottom: 14px;
    padding-left: 64px;
    content-visibility: auto;
    contain-intrinsic-size: auto 90px;
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
