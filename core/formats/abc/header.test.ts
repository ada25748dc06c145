import { describe, expect, it } from 'vitest'
import { frac } from '#core/music/fraction'
import { alterations, keyName, parseKey } from '#core/music/key'
import type { Step } from '#core/music/pitch'
import { readAbc } from './readAbc'
import { keyNear, keyWith, readHeader, readOrder, readTempo } from './header'

describe('the fields before the music', () => {
  const read = (...lines: string[]) =>
    readHeader(['X:1', ...lines, 'K:D mix', 'C:after the key', 'M:2/4', 'DEFG|'].join('\n'))
  it('are read up to the key; what comes after it is music', () => {
    const h = read(
      'T:First',
      'T:  Second  name  ',
      'C:Ann',
      'S:from a neighbour',
      'R:reel',
      'M:6/8',
      'Q:120',
      'P:AB',
    )
    expect(h).toEqual({
      titles: ['First', 'Second  name'],
      keyText: 'D mix',
      metreText: '6/8',
      tempoText: '120',
      unit: frac(1, 8),
      orderText: 'AB',
      freeMetre: false,
      facts: { composer: 'Ann', learnedFrom: 'from a neighbour', kind: 'reel', notes: '' },
    })
  })
  it('that are not there are null, or say nothing', () => {
    const h = readHeader('X:1\nsome words\n T:not at the margin\nTT:two letters\n1:a digit\nDEFG|')
    expect(h).toEqual({
      titles: [],
      keyText: null,
      metreText: null,
      tempoText: null,
      unit: frac(1, 8),
      orderText: null,
      freeMetre: false,
      facts: { composer: '', learnedFrom: '', kind: '', notes: '' },
    })
  })
  it('said twice: people in one line, remarks line by line, of the rest the last counts', () => {
    const h = read('C:Ann', 'C:and Ben', 'N:one', 'N:two', 'M:3/4', 'M:4/4', 'Q:1/4=60', 'Q:1/4=80')
    expect([h.facts.composer, h.facts.notes]).toEqual(['Ann and Ben', 'one\ntwo'])
    expect([h.metreText, h.tempoText]).toEqual(['4/4', '1/4=80'])
  })
  it.each([
    ['T:Name % a remark', 'Name'],
    ['T:Name% a remark', 'Name'],
    ['T:Half \\% of it', 'Half % of it'],
    ['T:Long    field joined', 'Long field joined'],
    ['T:Two  blanks', 'Two  blanks'],
    ['T:a: b', 'a: b'],
    ["T:Caf\\'e", 'Café'],
  ])('%s', (line, title) => {
    expect(read(line).titles).toEqual([title])
  })
  it.each([
    ['M:none', true],
    ['M:NONE', true],
    ['M:', true],
    ['M:4/4', false],
    ['M:none of it', false],
    ['M:6/8 none', false],
  ])('%s: free of metre %s', (line, free) => {
    expect(read(line).freeMetre).toBe(free)
  })
})

describe('the note that stands for one', () => {
  it.each([
    [['L:1/4'], frac(1, 4)],
    [['L: 1/16 % short', 'M:4/4'], frac(1, 16)],
    [['L:1'], frac(1)],
    [['L:1/4', 'L:1/8'], frac(1, 8)],
    [['L:0/4', 'M:2/4'], frac(1, 16)],
    [['L:short'], frac(1, 8)],
    [['M:2/4'], frac(1, 16)],
    [['M:5/8'], frac(1, 16)],
    [['M:2+3/8'], frac(1, 16)],
    [['M:(2+2+3)/8'], frac(1, 8)],
    [['M:3/4'], frac(1, 8)],
    [['M:6/8'], frac(1, 8)],
    [['M:C'], frac(1, 8)],
    [['M:none'], frac(1, 8)],
  ])('%o', (lines, unit) => {
    expect(readHeader(['X:1', ...lines, 'K:D', 'D|'].join('\n')).unit).toEqual(unit)
  })
})

describe('a tempo', () => {
  const eighth = frac(1, 8)
  it.each([
    ['1/4=92.5', frac(1), 92.5],
    ['1/4 = 80', frac(1), 80],
    ['3/8=60', frac(3, 2), 60],
    ['1/4 3/8=40', frac(5, 2), 40],
    ['1/8  1/8 1/8=40', frac(3, 2), 40],
    ['C=100', frac(1, 2), 100],
    ['C3=40', frac(3, 2), 40],
    ['C12=40', frac(6), 40],
    ['120', frac(1), 120],
    ['"Slow" 1/4=60', frac(1), 60],
    ['1/4=60 "slow"', frac(1), 60],
    ['1', frac(1), 1],
    ['999', frac(1), 999],
    ['1/4=99.1234', frac(1), 99.1234],
  ])('%s', (said, beat, perMinute) => {
    expect(readTempo(said, eighth)).toEqual({ beat, perMinute })
  })
  it.each([
    '',
    'fast',
    '"fast"',
    '0',
    '0.5',
    '1000',
    '12345',
    '1/4=',
    '=60',
    '1/4',
    '1/4=0',
    'x=80',
    '1/4 x=80',
    'C0=80',
    'C123=80',
    'D=80',
    '0/4=80',
    '1/4=60 bpm',
    'at 60',
    '1/4=60.12345',
  ])('%s tells no number', said => {
    expect(readTempo(said, eighth)).toBeNull()
  })
})

describe('an order of parts', () => {
  it.each([
    ['AABA', 'AABA'],
    ['A B  A', 'ABA'],
    ['A.B.', 'AB'],
    ['ab', 'ab'],
    ['A1', 'A'],
    ['A2.B3', 'AABBB'],
    ['(AB)2C', 'ABABC'],
    ['(AB)C', 'ABC'],
    ['A(B2C)2', 'ABBCBBC'],
    ['((AB)2C)2', 'ABABCABABC'],
    ['(A)2(B)3', 'AABBB'],
    ['(A9)9', 'A'.repeat(81)],
    ['A'.repeat(100), 'A'.repeat(100)],
    [`${'('.repeat(21)}A${')'.repeat(21)}`, 'A'],
  ])('%s', (said, order) => {
    expect(readOrder(said)?.join('')).toBe(order)
  })
  it.each([
    '',
    ' ',
    '.',
    '2A',
    'A-B',
    'A3B?',
    '(AB',
    'AB)',
    ')A(',
    '()',
    '((A9)9)2',
    '(((A9)9)9)9',
    'A'.repeat(101),
    `${'('.repeat(22)}A${')'.repeat(22)}`,
  ])('%s cannot be read', said => {
    expect(readOrder(said)).toBeNull()
  })
})

describe('a key with these alterations', () => {
  it.each(['D', 'Dm', 'Dmix', 'Ddor', 'Bb', 'F#m', 'Gphr', 'Flyd', 'Bloc'])('%s', name => {
    const key = parseKey(name)!
    const found = keyWith({ step: key.step, alter: key.alter }, alterations(key))
    expect(alterations(found!)).toEqual(alterations(key))
    expect(keyName(found!).split(' ')[0]).toBe(keyName(key).split(' ')[0])
  })
  it('is none where no mode has them', () => {
    const harmonic = { ...alterations(parseKey('Dm')!), C: 1 }
    expect(keyWith({ step: 'D', alter: 0 }, harmonic)).toBeNull()
  })
})

describe('the key nearest to a signature that no mode has', () => {
  const given = (signs: string) => {
    const all: Record<Step, number> = { C: 0, D: 0, E: 0, F: 0, G: 0, A: 0, B: 0 }
    for (const [, sign, step] of signs.matchAll(/([_^])(\w)/g)) all[step as Step] = sign === '^' ? 1 : -1
    return all
  }
  it.each([
    ['D', '_E ^F', 'D mixolydian'],
    ['D', '_E ^F _B', 'D phrygian'],
    ['A', '^G', 'A minor'],
    ['G', '_B _E ^F', 'G minor'],
    ['D', '_B ^C', 'D minor'],
    ['C', '^F _B', 'C mixolydian'],
    ['B', '', 'B locrian'],
    ['A', '^G ^F', 'A dorian'],
  ])('on %s with %s is %s', (tonic, signs, name) => {
    const { step, alter } = parseKey(tonic)!
    expect(keyName(keyNear({ step, alter }, given(signs))!)).toBe(name)
  })
  it('has no more than seven signs', () => {
    expect(keyNear({ step: 'G', alter: 1 }, given('^F ^C ^G ^D ^A ^E ^B'))!.mode).toBe('mixolydian')
    expect(keyNear({ step: 'F', alter: -1 }, given(''))!.mode).toBe('lydian')
  })
})

describe('a tempo within the music', () => {
  const read = (text: string) => {
    const { tune, findings } = readAbc(text).tunes[0]!
    return [tune.tempo?.perMinute ?? null, findings.map(f => [f.code, f.where.line])]
  }
  it('is the tune’s where its header says none', () => {
    expect(read('X:1\nM:4/4\nL:1/4\nK:C\n[Q:1/4=60]CDEF|\n')).toEqual([60, []])
    expect(read('X:1\nM:4/4\nL:1/4\nK:C\nQ:1/4=60\nCDEF|\n')).toEqual([60, []])
  })
  it('is told where there is one before it', () => {
    expect(read('X:1\nM:4/4\nL:1/4\nQ:1/4=100\nK:C\nCDEF|[Q:1/4=60]CDEF|\n')).toEqual([
      100,
      [['abc.tempoChange', 6]],
    ])
    expect(read('X:1\nM:4/4\nL:1/4\nK:C\n[Q:1/4=60]CDEF|\nQ:1/4=80\nCDEF|\n')).toEqual([
      60,
      [['abc.tempoChange', 6]],
    ])
  })
  it('that can’t be read is told where it stands', () => {
    expect(read('X:1\nM:4/4\nL:1/4\nK:C\nCDEF|[Q:"Slowly"]CDEF|\n')).toEqual([null, [['abc.tempoUnread', 5]]])
  })
})
