/**
 * The words of the visitor guide, line by line: what a line is stands at its head. `#` headings, `-` and `1.` items, `..` going on with an
 * item, `>` quotations, `|` rows of a table, `!` pictures, `---` a new page. `*bold*`, `_slanted_`, `{words}(address)` and `^[note]` within.
 */
export const GUIDE = `
# Lantern Fen visitor guide
Lantern Fen is four hundred hectares of reed, open water and wet wood, and one *boardwalk* that goes round all of it. This guide is for those who come for the first time and for those who come again and want to know why the second bench has moved. It was put together by the wardens, who answer for every word of it.
The whole walk takes two hours at an easy pace, three with children, and as long as one likes with a pair of glasses. There is no short cut, but there are six places to turn back, and at each of them a post says how far it is to the gate.
! map | The boardwalk from above: a loop with ten posts | 150 | The boardwalk and its ten posts. The lower gate is at post 1.
## Before you set out
The gate opens with the light and closes with it. In the table are the hours for the whole year; on the first Saturday of October the lanterns are lit and the gate stays open until ten.^[Between sunset and ten the boardwalk is one way: up by the reeds, back by the wood.]
| Months | Gate opens | Gate closes | Water on the path |
| January, February | 8:30 | 16:30 | often, up to 12 cm |
| March, April | 7:30 | 18:30 | now and then |
| May to July | 6:00 | 21:00 | no |
| August, September | 6:30 | 20:00 | no |
| October | 7:30 | 18:00 | no |
| November, December | 8:30 | 16:15 | often, up to 8 cm |
Bring as little as you can and the following things:
- boots that may get wet, from November to March
- something warm, for the wind comes over open water
- a lamp with a *red* glass, if you come in the evening
-- and spare cells for it; the nearest shop is an hour away
- a whistle, which carries farther than a voice
Dogs stay at the gate. There is shade for them, water, and a warden who likes dogs.
## The way, post by post
The posts are numbered as one meets them. Each has a small picture cut into it, and under the picture the number in letters that can be felt.
1. *Lower gate.* The board with the map, the box for found things, and the bell. Who comes alone rings once on going out and twice on coming home.
1. *First bench.* Four hundred steps from the gate. From here one sees whether the heron is at the north pool: look for what seems to be a stick.
1. *Reed bed.* The boards are narrow here and one of two people has to wait. The reed is cut by hand every third winter, a third of it each time.
.. In a dry year the bed stands a hand above the water, in a wet one a hand below it.
1. *Hide.* It holds eight. Whoever sits longest by the slit moves on when somebody new comes in; nobody has ever had to be asked.
1. *North pool.* The deepest water of the fen, four metres and a bit. The heron stands at its eastern edge before nine in the morning.
! reeds | Reeds before the water of the north pool in the evening | 150 | Reeds at the north pool, about half past eight in June.
1. *Sluice.* The wardens set it twice a year. The mark on its post shows the water of the wettest day that anybody wrote down.
1. *Alder wood.* Half an hour of shade. The path is made of split logs and is slippery after rain, whatever the sun says.
1. *Otter pond.* Otters come when nobody waits for them. Their slide is on the far side, between the two leaning birches.
1. *Second bench.* It stood by the pond until the spring; now it stands where the view is and the otters have their peace.
1. *Upper meadow.* From here one goes downhill, on grass, back to where one began.
> Who walks slowly sees twice: once what is there, and once what was there all the time.
## What lives here, and when to see it
Nobody can promise anything. But the wardens have written down what they saw on every round for eleven years, and this is what comes of it.
### Birds
The *heron* is here all the year, and on most mornings there is only one.^[Two were seen together on nine mornings of eleven years, and on one of those they were fighting.] Warblers come with the last days of April and are heard long before they are seen. In the first week of September there are so many swallows in the reed in the evening that the tops bend; the best place to see that is the hide, the best time is twenty minutes after sunset.
Geese pass in October and again in March. They do not stop, but they turn once over the open water, and whoever stands at the sluice stands right below.
### Beasts
*Otters* are seen on one round of seven. They are heard on one of three: a whistle, high and short, as if somebody had lost a dog. *Water voles* live in the bank below the first bench and do not mind feet above them. Bats come out of the alder wood in the last light and hunt along the boards; those who stand still are flown round.
### Plants
The fen has three kinds of orchid and one place where all three stand together. The place is not in this guide. Ask a warden, who will look at your shoes and then tell you.
Please do not pick anything, _not even what lies on the ground_: what lies on the ground is somebody's house.
---
## How the fen is looked after
The water makes the fen, and the sluice makes the water. From November to March it is kept high, so that the peat does not dry and sink; in summer it is let down by a hand, so that the meadow can be mown. The level is read every Monday and chalked on the board at the gate.
The boards are larch, planed on the upper side and left as they came on the lower. A board lasts fourteen years in the sun and nine in the wood. When one of them gives, the warden marks it with a nail and a piece of red wool; please step over it, and tell somebody at the gate.
! post | A post with a green sign in the shape of an arrow | 70 | The new signs, cut by Tern & Tally.
The signs were made anew this year by *Tern & Tally Signworks*, in cedar and in a green that was agreed on after five meetings. Where a sign and this guide say different things, the sign is right, and we should like to hear of it.
### What your fee is for
- Half of it goes into boards, nails and the boat.
- A quarter pays for counting, which is dull work and the only reason that anybody knows anything.
- The rest is for the children of the three villages, who come for nothing and are shown how to be quiet.
## Rules, and what they are good for
Rules are few here, and each has a reason. That is why they are printed with the reason beside them.
1. Stay on the boards. The ground beside them looks like ground and is not.
1. Be back at the gate before it closes. The wardens count those who went in and those who came out, and go and look for the difference.
1. No fire and no smoking, at any time. Peat burns from below and for weeks.
1. Speak as if somebody slept in the next room. In May somebody does.
1. What flies with a motor stays in the car.
## If something happens
Ring the bell at any post three times, wait, and ring again. The bells are heard at the gate and at the house by the upper meadow, and somebody is always at one of the two. Do not leave the boards to fetch help, and do not send one person alone after dark.
The number of the post is on its back, too, where it can be felt. Say it first, then what has happened, then how many you are.
## Coming here
The bus from the market place stops at the lower gate four times a day, at a quarter past the even hours. There are twelve places for cars and forty for bicycles; that is meant as a hint. For wheelchairs the way is level from the gate to the hide, and the boards are a metre and a half wide as far as there. The warden lends a chair with broad wheels, which goes through to the sluice.
Groups of more than ten tell us a week before. Schools may come on any day, and on Thursdays a warden comes along.
## Who wrote this
The wardens of Lantern Fen: Ansa Brook, who set the sluice; Ines Okoro, who drew the map; and Jory Vane, who counted. The hours were checked against the gate book in November. All of it may be copied by hand, read aloud and corrected in pencil.
More of all this, and what was seen this week, stands on {the page of the fen}(https://lanternfen.example/this-week).
`;
