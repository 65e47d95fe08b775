<script lang="ts">
  import { ANY_LANGUAGE } from '$lib/core/hearing';
  import { messageOf } from '$lib/core/message-of';
  import { languageName } from '$lib/core/track';
  import { earCalls, type Ear } from '$lib/client/ears/calls';
  import { phrases } from './phrases';

  interface Props {
    ear: Ear;
    onChanged: (ear: Ear) => void;
  }
  let { ear, onChanged }: Props = $props();
  const words = phrases.list;
  const MOST_NAMED = 4;
  const languages = $derived.by(() => {
    if (ear.languages[0] === ANY_LANGUAGE) return words.any;
    const named = ear.languages.slice(0, MOST_NAMED).map(languageName).join(', ');
    const more = ear.languages.length - MOST_NAMED;
    return more > 0 ? `${named} +${more}` : named;
  });
  const facts = $derived([
    languages,
    words.bytes(ear.sizeBytes),
    ...(ear.writes === undefined ? [] : [words.writes[ear.writes]]),
    ...(ear.can === undefined ? [] : [ear.can.times ? words.times.yes : words.times.no]),
    ...(ear.can?.confidence === true ? [words.confidence] : [])
  ]);

  let isChanging = $state(false);
  let [name, tags, note] = $state(['', '', '']);
  let failure = $state<string | null>(null);
  let first = $state<HTMLInputElement | undefined>();
  let opener = $state<HTMLButtonElement | undefined>();

  function change(): void {
    name = ear.name;
    tags = ear.languages[0] === ANY_LANGUAGE ? '' : ear.languages.join(', ');
    note = ear.note ?? '';
    failure = null;
    isChanging = true;
    requestAnimationFrame(() => first?.focus());
  }
  function close(): void {
    isChanging = false;
    requestAnimationFrame(() => opener?.focus());
  }
  async function save(): Promise<void> {
    try {
      const languages = tags.split(/[\s,]+/).filter((tag) => tag !== '');
      onChanged(
        await earCalls.describe(ear.id, {
          ...(name.trim() !== '' && { name: name.trim() }),
          ...(languages.length > 0 && { languages }),
          ...(note.trim() !== '' && { note: note.trim() })
        })
      );
      close();
    } catch (error) {
      failure = messageOf(error);
    }
  }
</script>

<li>
  <p class="line">
    <strong>{ear.name}</strong>
    <span class="state" class:ready={ear.state === 'ready'} class:bad={ear.state === 'unusable'} role="status">
      {ear.state === 'ready' ? words.ready(ear.loadMs ?? 0) : words[ear.state]}
    </span>
  </p>
  {#if ear.reason !== undefined}<p class="reason">{ear.reason}</p>{/if}
  <p class="soft">{facts.join(' · ')}</p>
  {#if ear.note !== undefined && !isChanging}<p class="soft">{ear.note}</p>{/if}
  {#if isChanging}
    <form
      onsubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <label>{phrases.form.name} <input class="field" bind:this={first} bind:value={name} maxlength="200" /></label>
      <label>{phrases.form.languages} <input class="field" bind:value={tags} aria-describedby="about-{ear.id}" /></label
      >
      <p class="soft about" id="about-{ear.id}">{phrases.form.languagesAbout}</p>
      <label>{phrases.form.note} <input class="field" bind:value={note} maxlength="1000" /></label>
      {#if failure !== null}<p class="reason" role="alert">{failure}</p>{/if}
      <p class="line">
        <button class="act filled">{phrases.form.save}</button>
        <button class="act" type="button" onclick={close}>{phrases.form.cancel}</button>
      </p>
    </form>
  {:else}
    <button class="act quiet" bind:this={opener} aria-label={phrases.form.changeOf(ear.name)} onclick={change}
      >{phrases.form.change}</button
    >
  {/if}
</li>

<style>
  li {
    display: grid;
    gap: 4px;
    justify-items: start;
    padding: 14px 0;
    border-top: 1px solid var(--rule);
  }
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
    align-items: baseline;
  }
  .state {
    font-size: 14px;
  }
  .ready {
    color: var(--leaf);
  }
  .bad,
  .reason {
    color: var(--clay);
  }
  /* Its words stand under the others. */
  li > .act {
    margin-left: -12px;
  }
  form {
    display: grid;
    gap: 8px;
    width: 100%;
    padding-top: 6px;
  }
  label {
    display: grid;
    grid-template-columns: 130px minmax(0, 1fr);
    gap: 10px;
    align-items: center;
  }
  .about {
    padding-left: 140px;
  }
</style>
