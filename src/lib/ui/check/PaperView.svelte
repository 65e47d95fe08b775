<script lang="ts">
  import { textOf, type Paper, type Phrase } from '$lib/core/paper';
  import { phrases } from './phrases';

  /** A document as it will be printed. */
  interface Props {
    paper: Paper;
  }
  let { paper }: Props = $props();
  /** Of a table; the file has them all. */
  const MOST_ROWS = 100;
</script>

{#snippet text(phrase: Phrase)}
  {#if typeof phrase === 'string'}{phrase}{:else}<span lang={phrase.language} dir="auto">{textOf(phrase)}</span>{/if}
{/snippet}

<article>
  <h2>{paper.title}</h2>
  {#each paper.parts as part, index (index)}
    {#if part.kind === 'heading'}<h3>{@render text(part.text)}</h3>
    {:else if part.kind === 'paragraph'}<p class:soft={part.tone !== 'plain'}>{@render text(part.text)}</p>
    {:else if part.kind === 'facts'}
      <table>
        <caption>{part.name}</caption>
        <tbody>
          {#each part.facts as { label, value }, at (at)}
            <tr><th scope="row" class="about">{label}</th><td>{@render text(value)}</td></tr>
          {/each}
        </tbody>
      </table>
    {:else if part.kind === 'table'}
      <table>
        <caption>{part.name}</caption>
        <colgroup>
          {#each part.columns as { share }, at (at)}<col style:width="{share}%" />{/each}
        </colgroup>
        <thead>
          <tr>
            {#each part.columns as { head }, at (at)}<th scope="col">{head}</th>{/each}
          </tr>
        </thead>
        <tbody>
          {#each part.rows.slice(0, MOST_ROWS) as row, at (at)}
            <tr>
              {#each row as cell, column (column)}<td>{@render text(cell)}</td>{/each}
            </tr>
          {/each}
        </tbody>
      </table>
      {#if part.rows.length > MOST_ROWS}<p class="soft">{phrases.report.more(part.rows.length - MOST_ROWS)}</p>{/if}
    {:else}
      {@const most = Math.max(1, ...part.bars.map(({ count }) => count))}
      <table class="bars">
        <caption>{part.name}</caption>
        <tbody>
          {#each part.bars as { label, count, isOutside }, at (at)}
            <tr>
              <th scope="row" class="about">{label}</th>
              <td aria-hidden="true"
                ><span
                  class:outside={isOutside}
                  style:width="{(count / most) * 100}%"
                  style:opacity={count === 0 ? 0 : 1}
                ></span></td
              >
              <td class="count">{count}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
  {/each}
</article>

<style>
  article {
    max-width: 760px;
  }
  h2 {
    margin-bottom: 4px;
    font-size: 20px;
    font-weight: 700;
  }
  h3 {
    margin-top: 22px;
    font-size: 17px;
    font-weight: 700;
  }
  table {
    width: 100%;
    margin-top: 10px;
    border-collapse: collapse;
    table-layout: fixed;
    font-size: 14px;
  }
  caption {
    padding-bottom: 3px;
    font-weight: 700;
    text-align: start;
  }
  th,
  td {
    padding: 4px 14px 4px 0;
    border-top: 1px solid var(--rule);
    text-align: start;
    vertical-align: top;
    overflow-wrap: anywhere;
    font-variant-numeric: tabular-nums;
  }
  thead th,
  .about {
    color: var(--soft-ink);
    font-weight: 400;
  }
  thead th {
    border: 0;
  }
  .about {
    width: 30%;
  }
  .bars th,
  .bars td {
    padding-block: 1px;
    border: 0;
  }
  .bars .about {
    width: 18%;
  }
  .bars span {
    display: block;
    height: 10px;
    margin-top: 6px;
    background: var(--leaf);
  }
  .bars .outside {
    background: var(--clay);
  }
  .count {
    width: 10%;
  }
</style>
