<script lang="ts">
  import Undo from '@lucide/svelte/icons/undo-2';
  import { GROUPS, checksOf, numbersOf, severityOf, type Check, type NumberOf } from '$lib/core/checks';
  import { SEVERITIES, type Sheet } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import KeptSheets from './KeptSheets.svelte';
  import Mark from './Mark.svelte';
  import { phrases } from './phrases';

  /** What each check counts as for this track, and its numbers. */
  const desk = useTrackDesk();
  const words = phrases.sheet;
  const sheet = $derived(desk.track.sheet);

  function change(check: Check, setting: Sheet[string] | undefined): void {
    const { [check.id]: _, ...others } = sheet;
    desk.edit([{ type: 'setSheet', sheet: setting === undefined ? others : { ...others, [check.id]: setting } }]);
  }

  function setNumber(check: Check, name: string, { least, most }: NumberOf, input: HTMLInputElement): void {
    const value = input.valueAsNumber;
    if (Number.isNaN(value) || value < least || value > most) {
      input.reportValidity();
      return;
    }
    const own = sheet[check.id];
    change(check, { ...own, numbers: { ...own?.numbers, [name]: value } });
  }
</script>

<div class="sheet" data-testid="sheet">
  <KeptSheets />
  <div class="all">
    {#each GROUPS as group (group)}
      <section aria-labelledby="group-{group}">
        <h2 id="group-{group}">{phrases.groups[group]}</h2>
        <ul>
          {#each checksOf(group) as check (check.id)}
            {@const severity = severityOf(check, sheet)}
            {@const numbers = numbersOf(check, sheet, desk.track)}
            <li class:off={severity === 'off'}>
              <span class="sign"
                >{#if severity !== 'off'}<Mark {severity} />{/if}</span
              >
              <span class="title">{check.title}</span>
              <span class="numbers">
                {#each Object.entries(check.numbers ?? {}) as [name, number] (name)}
                  <label>
                    <span class="soft">{number.label}</span>
                    <input
                      class="field"
                      type="number"
                      aria-label="{check.title}: {number.label} {number.unit}"
                      min={number.least}
                      max={number.most}
                      step="any"
                      value={numbers[name]}
                      onchange={(event) => setNumber(check, name, number, event.currentTarget)}
                    />
                    <span class="soft"
                      >{number.unit}{typeof number.value === 'object' && sheet[check.id]?.numbers?.[name] === undefined
                        ? `, ${words.asRules}`
                        : ''}</span
                    >
                  </label>
                {/each}
              </span>
              <select
                class="field"
                aria-label={words.countsAs(check.title)}
                value={severity}
                onchange={(event) =>
                  change(check, { ...sheet[check.id], severity: event.currentTarget.value as typeof severity })}
              >
                {#each SEVERITIES as one (one)}<option value={one}>{phrases.severities[one]}</option>{/each}
                <option value="off">{phrases.off}</option>
              </select>
              <span class="back">
                {#if sheet[check.id] !== undefined}
                  <button class="icon" aria-label={words.back(check.title)} onclick={() => change(check, undefined)}
                    ><Undo size={15} /></button
                  >
                {/if}
              </span>
            </li>
          {/each}
        </ul>
      </section>
    {/each}
  </div>
</div>

<style>
  .sheet {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    height: 100%;
    min-height: 0;
  }
  .all {
    padding: 4px 16px 20px;
    border-top: 1px solid var(--rule);
    overflow-y: auto;
  }
  h2 {
    margin-top: 14px;
    color: var(--leaf);
    font-size: 15px;
    font-weight: 700;
  }
  li {
    display: grid;
    grid-template-columns: 12px minmax(0, 1fr) auto 104px 30px;
    gap: 10px;
    align-items: center;
    min-height: 36px;
    border-bottom: 1px solid var(--rule);
  }
  .off .title {
    color: var(--soft-ink);
  }
  .sign {
    display: grid;
  }
  .numbers {
    display: flex;
    font-size: 14px;
  }
  .numbers label {
    display: flex;
    align-items: center;
    gap: 6px;
  }
  .numbers input {
    width: 76px;
    padding: 2px 6px;
    text-align: right;
  }
  select {
    padding: 2px 6px;
  }
</style>
