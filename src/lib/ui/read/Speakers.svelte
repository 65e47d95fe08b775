<script lang="ts">
  import { onDestroy } from 'svelte';
  import Volume2 from '@lucide/svelte/icons/volume-2';
  import type { Speaker, Word } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { session, player } = desk;

  /** Speakers who say something, each with the words. */
  const speaking = $derived.by(() => {
    const words = new Map<string, Word[]>();
    for (const word of desk.track.words) {
      if (word.speakerId === null) continue;
      const list = words.get(word.speakerId);
      if (list === undefined) words.set(word.speakerId, [word]);
      else list.push(word);
    }
    return desk.track.speakers
      .map((speaker) => ({ speaker, words: words.get(speaker.id) ?? [] }))
      .filter((one) => one.words.length > 0);
  });

  /** The name that is being typed; `null` while nobody types. */
  let typed: { readonly speaker: Speaker; readonly name: string } | null = null;
  const draft = session.draft('speaker', commit);
  onDestroy(() => draft.close());

  const renaming = ({ speaker, name }: NonNullable<typeof typed>) => ({
    commands: [{ type: 'renameSpeaker' as const, speakerId: speaker.id, name: name.trim() }],
    text: name
  });
  function type(speaker: Speaker, name: string): void {
    typed = { speaker, name };
    const isNew = name.trim() !== '' && name.trim() !== speaker.name;
    draft.mirror(isNew ? renaming(typed) : null);
  }
  function commit(): void {
    if (typed === null) return;
    const now = typed;
    typed = null;
    const { speaker, name } = now;
    if (name.trim() !== '' && name.trim() !== speaker.name) draft.commit(renaming(now));
  }

  /** Plays the longest run of words without a break. */
  function listen(words: readonly Word[]): void {
    let best = { startMs: words[0]!.startMs, endMs: words[0]!.endMs };
    let from = 0;
    for (let at = 1; at <= words.length; at++) {
      const goesOn = at < words.length && words[at]!.startMs - words[at - 1]!.endMs < 600;
      if (goesOn) continue;
      const run = { startMs: words[from]!.startMs, endMs: words[at - 1]!.endMs };
      if (run.endMs - run.startMs > best.endMs - best.startMs) best = run;
      from = at;
    }
    desk.seek(best.startMs);
    if (!player.isPlaying) player.toggle();
  }

  function merge(speaker: Speaker, words: readonly Word[], select: HTMLSelectElement): void {
    const into = desk.track.speakers.find((one) => one.id === select.value);
    select.value = '';
    if (into === undefined) return;
    desk.edit(
      [{ type: 'setSpeaker', wordIds: words.map((word) => word.id), speakerId: into.id }],
      phrases.speakers.merged(speaker.name, into.name)
    );
  }

  function giveTo(select: HTMLSelectElement): void {
    const { value } = select;
    select.value = '';
    session.flush();
    if (value !== '') desk.page.giveTo(value === 'new' ? null : value);
  }
</script>

{#if speaking.length > 0}
  <section aria-labelledby="speakers-title">
    <h3 id="speakers-title">{phrases.speakers.speakers}</h3>
    <ul>
      {#each speaking as { speaker, words } (speaker.id)}
        <li>
          <input
            class="field"
            aria-label={phrases.speakers.nameOf(speaker.name)}
            value={speaker.name}
            oninput={(event) => type(speaker, event.currentTarget.value)}
            onblur={(event) => {
              commit();
              const { speakers } = desk.track;
              event.currentTarget.value = speakers.find(({ id }) => id === speaker.id)?.name ?? speaker.name;
            }}
            onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
          <button
            class="act quiet"
            aria-label={phrases.speakers.listenTo(speaker.name)}
            title={phrases.speakers.listen}
            onclick={() => listen(words)}><Volume2 size={16} /></button
          >
          {#if speaking.length > 1}
            <select
              class="field"
              aria-label={phrases.speakers.isTheSameAs(speaker.name)}
              onchange={(event) => merge(speaker, words, event.currentTarget)}
            >
              <option value="">{phrases.speakers.sameAs}</option>
              {#each speaking as other (other.speaker.id)}
                {#if other.speaker.id !== speaker.id}<option value={other.speaker.id}>{other.speaker.name}</option>{/if}
              {/each}
            </select>
          {/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}
<label class="given"
  >{phrases.speakers.selectedSaidBy}
  <select class="field" title={phrases.speakers.selectedHint} onchange={(event) => giveTo(event.currentTarget)}>
    <option value="">…</option>
    {#each desk.track.speakers as speaker (speaker.id)}<option value={speaker.id}>{speaker.name}</option>{/each}
    <option value="new">{phrases.speakers.somebodyNew}</option>
  </select></label
>

<style>
  h3 {
    margin-bottom: 6px;
    font-weight: 700;
  }
  ul {
    display: grid;
    gap: 6px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    align-items: center;
    gap: 6px;
  }
  li select {
    width: 106px;
  }
  .given {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 8px;
  }
  .given select {
    width: 160px;
  }
</style>
