import { mendWords, placeText, sentence } from '#core/words/findings'
import type { Finding } from '#core/findings/finding'

/** Findings as the contract gives them: the data, and the sentence. */
export const told = (findings: readonly Finding[]) =>
  findings.map(f => ({
    code: f.code,
    severity: f.severity,
    where: f.where,
    sentence: sentence(f),
    ...(placeText(f) && { place: placeText(f) }),
    ...(f.mends && { mends: f.mends.map(m => ({ ...m, label: mendWords(m) })) }),
  }))
