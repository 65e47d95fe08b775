<script lang="ts">
  import Maximize from '@lucide/svelte/icons/maximize';
  import { onMount, untrack } from 'svelte';
  import type { ClientCommand } from '$lib/core/commands';
  import { LEAST_CONTRAST, type Mending } from '$lib/core/light';
  import { ASPECTS, FITS } from '$lib/core/rendering';
  import type { Cue } from '$lib/core/track';
  import { pictureShape } from '$lib/client/picture/shape.svelte';
  import { titleOf } from '$lib/client/keys/key-sets';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ContrastChart from './ContrastChart.svelte';
  import { phrases } from './phrases';

  /** Under the picture: its shape, and whether the captions can be read on it. */
  const desk = useTrackDesk();
  const { contrasts, dressing, recording } = desk;
  const words = phrases.contrast;

  onMount(() => contrasts.follow());
  $effect(() => {
    const { track } = desk;
    if (contrasts.light !== null) untrack(() => contrasts.measure(track));
  });

  const inHand = $derived(contrasts.inHand);
  /** Of the frame that stands on the picture, while it stands. */
  let onFrame = $state<number | null>(null);
  $effect(() => {
    void [dressing.seen, desk.player.isPlaying];
    const video = dressing.picture?.querySelector('video') ?? null;
    const look = (): void => {
      onFrame = video === null || desk.player.isPlaying ? null : contrasts.measureFrame(video);
    };
    const resting = setTimeout(look, 120);
    video?.addEventListener('seeked', look);
    return () => {
      clearTimeout(resting);
      video?.removeEventListener('seeked', look);
    };
  });
  const behind = $derived.by(() => {
    const luminance = inHand?.legibility.at?.luminance ?? 0;
    return luminance > 0.4 ? words.behind.bright : luminance < 0.08 ? words.behind.dark : words.behind.middling;
  });
  const level = (worst: number): string =>
    worst < LEAST_CONTRAST.large ? 'bad' : worst < LEAST_CONTRAST.any ? 'weak' : 'good';

  function nameOf({ kind, change }: Mending): string {
    if (kind === 'box') return words.mend.box(change.box?.opacity ?? 1);
    if (kind === 'outline') return words.mend.outline;
    if (kind === 'place') return words.mend.place(phrases.place.at(change.placement ?? 'bottom centre'));
    return words.mend.color(change.color ?? '');
  }

  const commandOf = ({ change: look }: Mending, cue: Cue, isForAll: boolean): ClientCommand =>
    isForAll ? { type: 'setLook', look } : { type: 'setCueLooks', cueIds: [cue.id], look };

  function take(command: ClientCommand): void {
    desk.trial.leave();
    desk.edit([command]);
  }
  /** What is measured on is not what is tried: the proposals stay while one of them is looked at. */
  let shown = $state.raw<{ readonly cue: Cue; readonly mendings: readonly Mending[] } | null>(null);
  $effect(() => {
    const next = inHand === null ? null : { cue: inHand.cue, mendings: contrasts.mendings };
    if (desk.trial.track === null) shown = next;
  });
</script>

<div class="below">
  <div class="shape">
    <label>
      <span class="soft">{phrases.shape.label}</span>
      <select class="field" bind:value={pictureShape.aspect}>
        {#each ASPECTS as one (one)}<option value={one}>{phrases.shape.aspects[one]}</option>{/each}
      </select>
    </label>
    {#if pictureShape.aspect !== 'as is' && recording.media.hasVideo}
      <label>
        <span class="soft">{phrases.shape.fit}</span>
        <select class="field" bind:value={pictureShape.fit}>
          {#each FITS as one (one)}<option value={one}>{phrases.shape.fits[one]}</option>{/each}
        </select>
      </label>
    {/if}
    {#if !recording.media.hasVideo}
      <label>
        <span class="soft">{phrases.shape.background}</span>
        <input type="color" bind:value={pictureShape.background} />
      </label>
      <label>
        <input type="checkbox" bind:checked={pictureShape.isWaved} />
        {phrases.shape.waveform}
      </label>
    {/if}
    <button class="act" title={titleOf('fullScreen')} onclick={() => void dressing.toggleFullScreen()}
      ><Maximize size={15} /> {phrases.shape.fullScreen}</button
    >
    <span class="poor">
      <span class="soft"
        >{contrasts.poor.length > 0
          ? words.poorCues(contrasts.poor.length)
          : contrasts.cues.length > 0
            ? words.noPoor
            : ''}</span
      >
      <button
        class="act"
        disabled={contrasts.poor.length === 0}
        title={titleOf('nextPoorContrast')}
        onclick={() => desk.stepPoorContrast()}>{words.next}</button
      >
    </span>
  </div>
  {#if contrasts.failure !== null}
    <p class="failed" role="alert">{words.failed(contrasts.failure)}</p>
  {:else if contrasts.job !== null && recording.media.hasVideo}
    <p class="soft" role="status">{words.measuring(Math.round(contrasts.job.progress * 100))}</p>
  {:else}
    <div class="measured">
      {#if inHand !== null}
        <section aria-label={words.label} data-testid="contrast">
          <p class="figures">
            <span class="worst {level(inHand.legibility.worst)}"
              ><strong>{words.ratio(inHand.legibility.worst)}</strong> {words.worst}</span
            >
            <span class="soft">{words.ratio(inHand.legibility.median)} {words.median}</span>
          </p>
          <p class="why">
            {#if inHand.legibility.worst >= LEAST_CONTRAST.any}{words.good}
            {:else if inHand.legibility.at !== null}
              {words.why(behind, inHand.legibility.at.line + 1, desk.on.showTime(inHand.legibility.at.ms))}
            {/if}
            {#if inHand.legibility.isRestless}{words.restless}{/if}
            {#if onFrame !== null}<span class="soft">{words.frame(onFrame)}</span>{/if}
          </p>
          {#if shown !== null && shown.mendings.length > 0}
            {@const { cue, mendings } = shown}
            <ul>
              {#each mendings as mending (mending.kind)}
                <li>
                  <span>{nameOf(mending)} <span class="soft">{words.ratio(mending.worst)}</span></span>
                  {#each [false, true] as isForAll (isForAll)}
                    <button
                      class="act"
                      aria-label={words.mendFor(
                        nameOf(mending),
                        isForAll ? words.forAll : words.forThis,
                        mending.worst
                      )}
                      onpointerenter={() => desk.trial.try([commandOf(mending, cue, isForAll)])}
                      onfocus={() => desk.trial.try([commandOf(mending, cue, isForAll)])}
                      onpointerleave={() => desk.trial.leave()}
                      onblur={() => desk.trial.leave()}
                      onclick={() => take(commandOf(mending, cue, isForAll))}
                      >{isForAll ? words.forAll : words.forThis}</button
                    >
                  {/each}
                </li>
              {/each}
            </ul>
          {/if}
        </section>
      {/if}
      <ContrastChart
        track={desk.track}
        contrasts={contrasts.cues}
        durationMs={recording.durationMs}
        onChoose={(cue: Cue) => desk.chooseCue(cue, { seek: true })}
      />
    </div>
  {/if}
</div>

<style>
  .below {
    display: grid;
    flex: none;
    gap: 10px;
    width: 100%;
    padding-bottom: 12px;
    font-size: 14px;
  }
  .shape {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 16px;
  }
  label {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  .field {
    min-height: 32px;
    padding: 2px 8px;
  }
  .poor {
    display: flex;
    align-items: center;
    gap: 12px;
    margin-left: auto;
  }
  input[type='color'] {
    width: 40px;
    height: 30px;
  }
  .measured {
    display: grid;
    grid-template-columns: minmax(0, 360px) minmax(0, 1fr);
    gap: 20px;
    height: 132px;
  }
  section {
    display: grid;
    align-content: start;
    gap: 4px;
    overflow-y: auto;
  }
  .figures {
    display: flex;
    align-items: baseline;
    gap: 16px;
  }
  .worst strong {
    font-size: 19px;
  }
  .bad,
  .failed {
    color: var(--clay);
  }
  .weak strong {
    color: var(--straw);
  }
  .good strong {
    color: var(--leaf);
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    align-items: center;
    gap: 6px;
  }
  li .act {
    min-height: 26px;
    padding: 1px 8px;
    font-size: 13px;
  }
</style>
