/** A tune to try Nokta with, made up for it: two parts, in a first position's reach, with something to shift. */
export const TRY_TUNE = `X:1
T:The Oat-Loft Window
R:march
M:4/4
L:1/8
Q:1/4=84
K:D
|:D2F2 A2F2|G2B2 A4|B2AG F2D2|E2FG E4|
D2F2 A2F2|G2B2 A4|B2AG F2E2|D4 D4:|
|:d2A2 d2A2|B2G2 A4|G2B2 A2F2|E2G2 F2E2|
d2A2 d2A2|B2cd e2c2|d2AG F2E2|D4 D4:|
`
