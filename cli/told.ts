import { mendWords, placeText, sentence } from '#core/words/findings'
import { effectWords } from '#core/words/bow'
import type { Finding } from '#core/findings/finding'

/** Findings as the contract gives them: the data, and the sentence. */
export const told = (findings: readonly Finding[]) =>
  findings.map(f => ({
    code: f.code,
    severity: f.severity,
    where: f.where,
    ...(f.where.measure !== undefined && { measure: f.where.measure }),
    ...(f.where.note !== undefined && { note: f.where.note }),
    sentence: sentence(f),
    ...(placeText(f) && { place: placeText(f) }),
    ...(f.mends && {
      mends: f.mends.map(m => ({
        ...m,
        label: mendWords(m),
        ...(m.kind === 'bow' && m.effect && { then: effectWords(m.effect) }),
      })),
    }),
  }))
