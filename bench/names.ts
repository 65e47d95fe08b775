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
