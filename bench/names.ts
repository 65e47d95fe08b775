/** A talk full of names that no dictionary has, spoken by flite; nothing was tuned on it. */
export const NAMES_TALK = {
  voice: 'awb',
  terms: [
    'Elsbeth Rooke',
    'Tarnhollow',
    'Corviston',
    'gnomon',
    'Bexley Varn',
    'anchor pallet',
    'Lowmere',
    'Sister Odile',
    'analemma',
    'Hask'
  ],
  sentences: [
    'This is the garden at Tarnhollow, and the thing in the middle is a sundial.',
    'Elsbeth Rooke put it there in the year her daughter was born.',
    'The gnomon is bronze, and it points to the north.',
    'Bexley Varn cut the numbers by hand, and you can see where he slipped.',
    'The curve on the stone is called the analemma.',
    'It shows how far the sun is ahead of the clock or behind it.',
    'Sister Odile came from Lowmere every month to read it.',
    'She walked through Hask with a lamp and a loaf of bread.',
    'In Corviston they had a clock with an anchor pallet, but it was never right.',
    'So they sent a boy to Tarnhollow to ask for the time.',
    'Elsbeth Rooke gave him an apple and told him to run.',
    'By the time he was back in Corviston it was late again.'
  ]
} as const;

/** Two more, of other trades, for what is found by its sound; nothing was tuned on them either. */
export const MORE_NAMES_TALKS = [
  {
    terms: [
      'Merriden Staithe',
      'Josiah Thackeray Bone',
      'halyard',
      'Ulverbridge',
      'Philippa Quennell',
      'sounding pole',
      'Saltby',
      'capstan',
      'Corin Ashdown',
      'Widow Haverill'
    ],
    sentences: [
      'The ferry at Merriden Staithe has been pulled by hand since before the bridge.',
      'Josiah Thackeray Bone was the first to keep it, and his picture hangs in the hut.',
      'You turn the capstan and the rope comes up out of the water.',
      'Philippa Quennell took it over when she was nineteen.',
      'She tied the bell to a halyard so that people could call her from Saltby.',
      'In the spring the sand moves, and you need the sounding pole.',
      'Corin Ashdown fell in twice before he learned that.',
      'On market day they carried sheep from Ulverbridge.',
      'Widow Haverill paid with eggs, because she had no money.',
      'When the capstan froze, the men of Saltby walked across the ice.',
      'Corin Ashdown still has the old sounding pole in his barn.',
      'And Philippa Quennell rings the bell at Merriden Staithe every Sunday.'
    ]
  },
  {
    terms: [
      'Cassian Wheelwright',
      'propolis',
      'Dame Rosalind Tew',
      'Hollinside',
      'smoker bellows',
      'Verity Lamorna',
      'Oakhanger Green',
      'brood comb',
      'Benedict Sorrel',
      'Tilmouth'
    ],
    sentences: [
      'The bees in this garden came from Hollinside in a basket.',
      'Dame Rosalind Tew kept nine hives behind the church.',
      'She sealed the cracks with propolis, as the bees do.',
      'Cassian Wheelwright made her the smoker bellows out of an old boot.',
      'You lift the brood comb slowly and you look for the queen.',
      'Verity Lamorna was stung so often that she did not feel it.',
      'The honey was sold at Oakhanger Green on the first of August.',
      'Benedict Sorrel wrote down every swarm in a small red book.',
      'One of them flew all the way to Tilmouth.',
      'Cassian Wheelwright found it in the roof of the school.',
      'In a wet year the brood comb stays empty.',
      'Verity Lamorna gave the book to the library in Tilmouth.'
    ]
  }
] as const;
