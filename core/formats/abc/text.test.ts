import { describe, expect, it } from 'vitest'
import { asTyped, decodeAbc, decodeInPlace, spellAbc, spellWithout } from './text'

describe('letters as ABC spells them', () => {
  it.each([
    ['\\`a \\\'e \\^o \\~n \\"u', 'à é ô ñ ü'],
    ['\\ua \\vc \\cc \\oa \\=o', 'ă č ç å ō'],
    ['\\Ho \\;a \\.z', 'ő ą ż'],
    ['\\aa \\AA \\ae \\AE \\oe \\OE \\ss', 'å Å æ Æ œ Œ ß'],
    ['\\/o \\/O \\/l \\/L \\/d \\/D', 'ø Ø ł Ł đ Đ'],
    ['\\DH \\dh \\TH \\th', 'Ð ð Þ þ'],
    ['\\u00e9 \\u0142', 'é ł'],
    ['&eacute; &amp; &#233; &#xe9; &quot;', 'é & é é "'],
    ['50\\% \\& \\\\', '50% & \\'],
    // Two signs that make no letter, a name that is none and what is no sign of a text stay as they are.
    ["\\'x \\^q &nothing; \\u0000 \\ud800 &#0; \\u12", "\\'x \\^q &nothing; \\u0000 \\ud800 &#0; \\u12"],
    ['Café', 'Café'],
    ['', ''],
  ])('%s', (spelled, is) => {
    expect(decodeAbc(spelled)).toBe(is)
    // In place: as long as it was, and the same once it comes back.
    expect(decodeInPlace(spelled)).toHaveLength(spelled.length)
    expect(asTyped(decodeInPlace(spelled))).toBe(is)
  })
  it('what was spelled is no syntax on its way through the parser, nor is a semicolon; what was typed is', () => {
    const seen = decodeInPlace('a\\%b\\u0022c\\u002ad;e|*"f"')
    expect(seen.replace(/[\u200b\ue000-\ue07f]/g, '·')).toBe('a··b······c······d·e|*"f"')
    expect(asTyped(seen)).toBe('a%b"c*d;e|*"f"')
  })
})

describe('texts spelled so that they are read as they are', () => {
  it.each([
    ['50 % of it', '50 \\% of it'],
    ['A \\ B', 'A \\\\ B'],
    ['&eacute; & more', '\\&eacute; & more'],
    ['&#233;', '\\&#233;'],
    ['  one\ntwo ', 'one two'],
    ['plain', 'plain'],
  ])('%s', (text, is) => {
    expect(spellAbc(text)).toBe(is)
    expect(decodeAbc(is)).toBe(text.replace('\n', ' ').trim())
  })
  it('but for signs that mean something where they stand', () => {
    expect(spellWithout('a]b|c', /\]/g)).toBe('a\\u005db|c')
    expect(spellWithout('^up ^', /^\^/g)).toBe('\\u005eup ^')
  })
})
