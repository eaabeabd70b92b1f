/** An essay as a student of the demo might write it, and how good it is, 0 to 1. */
export interface SampleEssay {
  readonly quality: number;
  /** Paragraphs, plain. */
  readonly paragraphs: readonly string[];
}

const essay = (quality: number, ...paragraphs: string[]): SampleEssay => ({ quality, paragraphs });

/** A dozen for each question in whole sentences, from careless to excellent. */
export const ESSAYS: Readonly<Record<string, readonly SampleEssay[]>> = {
  survey: [
    essay(0.04, "The bank, because bees like it more. I would leave it."),
    essay(
      0.1,
      "I would leave the ditch unmown. It has 140 flower heads and the bank has only 60. More flowers is better for bees and everybody knows that.",
      "I am very sure, because 140 is more than double.",
    ),
    essay(
      0.15,
      "Ditch: 12 + 31 + 28 = 71. Bank: 8 + 22 + 35 = 65. The ditch won, so the ditch should be left. Next year one could count again to see if it is still the ditch.",
    ),
    essay(
      0.22,
      "The ditch had 71 visits and the bank 65. That is nearly the same, so it does not matter which one is left. I would leave the bank because it is steep and the mower tips over there.",
      "I am quite sure about the counts, since three groups did them.",
    ),
    essay(
      0.28,
      "In total there were six more visits at the ditch. But at two o’clock the bank had more (35 against 28), and the afternoon is when most people see the meadow. I would leave the bank.",
      "The weather was different too. I would count more often.",
    ),
    essay(
      0.34,
      "The two plots have almost the same number of visits, 71 and 65, but the days were not the same. Monday was windy and 16 °C, and bees do not like wind. So one cannot say which plot is better. It could be the ditch or the bank.",
      "To find out I would wait for a day with good weather and count the ditch again.",
    ),
    essay(
      0.4,
      "The bank has fewer flowers but nearly as many visits, which means that its flowers must be better. I would leave the bank unmown.",
      "It could also be the weather, as it was warmer on Tuesday. I am about 70 % sure. I would count on three more days.",
    ),
    essay(
      0.46,
      "I divided the visits by the flower heads. The ditch has 0.5 visits for each head, the bank about 1.1. So a flower on the bank is visited twice as often, and the bank should be left.",
      "Something else that could explain it is how warm it was. I would count again next week, and the week after.",
    ),
    essay(
      0.5,
      "Visits alone say ditch (71 to 65). Visits per flower head say bank (1.08 to 0.51). I trust the second more, because a plot with more flowers will always have more visitors, whatever it is like.",
      "But the bank was counted on a calm day with 21 °C. Wind keeps small bees at home. I would not decide before counting for some more days.",
    ),
    essay(
      0.55,
      "What is compared matters. If the question is how many bees a plot feeds, the ditch feeds a few more: 71 visits in half an hour. If the question is how good its flowers are, the bank is better, with one visit a head against half of one.",
      "For leaving a plot unmown the first question is the right one, I think. The weather was against the ditch, and it still had more. So I would leave the ditch, and count it once more on a calm day to be sure.",
    ),
    essay(
      0.6,
      "I would leave the bank, but I am not sure. Its 60 heads had 65 visits; the 140 heads of the ditch had 71. That is twice as much for each head.",
      "Two other causes could make the same figures. It was five degrees warmer and calm on Tuesday, so all insects flew more. And where there are few heads, each of them gets more visits, simply because the visitors have less to choose from.",
      "Next I would count both plots on the same day.",
    ),
    essay(
      0.65,
      "The counts differ by the hour as well. At nine both plots are quiet, at eleven the ditch leads, at two the bank. The ditch lies in the shade of the wall until ten, which explains the morning; on the bank the sun stands until four.",
      "Per head the bank is ahead, 1.1 to 0.5. But the days were not alike: wind and 16 °C on the ditch, calm and 21 °C on the bank. This pulls towards the bank. I would say it is likely, not certain. I would count at all three hours on both plots, on two more days.",
    ),
    essay(
      0.7,
      "Before comparing I would divide by what there was to visit: 71 visits to 140 heads are half a visit a head, 65 to 60 are a little more than one. The bank looks twice as good.",
      "How sure is that? Not very. Everything else speaks for the bank too: its day was warmer and calm. If warm calm air doubles the flying, nothing is left of the difference.",
      "I would send one group to each plot at the same time, so that the weather is the same for both.",
    ),
    essay(
      0.74,
      "One count a plot is a beginning. The bank has about one visit for each flower head, the ditch about half of one, and so the bank would be my choice for now.",
      "Against it: the ditch was watched in wind, at 16 °C, when many bees stay in. That alone may have halved its visits. For it: the ditch has the larger flowers, which should have helped the ditch and did not.",
      "I would count both at once, three mornings and three afternoons, and change the observers over, because one person sees more than another.",
    ),
    essay(
      0.79,
      "The numbers can be read in two ways, and I would say both. By visits, ditch 71, bank 65. By visits for each head, ditch 0.51, bank 1.08. Whoever mows wants to know what is lost by mowing, and that is the visits, so the first reading should not be laughed at.",
      "The warm, calm Tuesday helped the bank in every count. If that is taken away, the ditch leads more clearly in visits and the bank less clearly per head.",
      "So: the ditch, with little certainty. Next I would count both plots at the same hours of the same days, at least four times.",
    ),
    essay(
      0.84,
      "Half a visit a head on the ditch, one on the bank. That is the figure I would use, because the plots differ in size of bloom. It says bank.",
      "Three things could make it look so. The day: 21 °C and calm raises visits on the bank. The crowd: with 60 heads each is found more often. And the kind of flower: if the ditch is full of buttercups, its 140 heads are worth less to a bee than 60 of knapweed.",
      "The first pulls towards the bank, the second too, the third I cannot tell. I am not sure, perhaps six to four. I would watch both plots together on five days and note which flower each visit was to.",
    ),
    essay(
      0.9,
      "I would leave the bank, and write beside it that I may be wrong. Visits divided by heads give 71/140 = 0.51 and 65/60 = 1.08, so each head on the bank was visited twice as often.",
      "But plot and day were changed together. On Monday it was windy, which keeps all but bumblebees down; on Tuesday it was calm and five degrees warmer. Both pull the same way as the result, and so the result cannot be told from them. Few heads also concentrate the visitors, which pulls that way again.",
      "What would decide it is a count of both plots in the same ten minutes, by two groups who change places, on several days of different weather. If the bank is still ahead per head on the windy days, I would believe it.",
    ),
    essay(
      0.95,
      "The counts say less than they seem to. The ditch had 71 visits to 140 heads (0.51 a head), the bank 65 to 60 (1.08). If a head on the bank is worth twice as much, leaving 60 of them costs the mower little and gives the bees nearly what the whole ditch gives.",
      "Against that stand wind and cold on the ditch’s only day. By the course notes flying falls by about half between 21 and 16 °C in wind. Half is just the difference we found, so the weather alone could have made it, and the plots may be equal.",
      "I would therefore leave neither yet. Two groups, one on each plot, the same three hours, four days; then change the groups over. I would count heads each day, for they open and fade. A difference that is there on every day, whatever the weather, would be about the plots.",
    ),
    essay(
      0.87,
      "First the sum, then what it is a sum of. The ditch wins by six visits, and has eighty heads more: so a head on the bank is visited twice as often (1.08 against 0.51).",
      "A second look: from nine to two the bank rises from 8 to 35 and the ditch falls back after eleven. On a calm warm day that is the usual course, in wind it is not. So what we see may be Monday and Tuesday rather than ditch and bank, and the weather favours the bank each time.",
      "I would leave the bank for one year and count while it stands: both plots, same hours, five days. Being wrong costs one mowing.",
    ),
  ],
  decline: [
    essay(0.05, "Mowing is bad for bees because they need flowers. If you mow more there will be less bees."),
    essay(
      0.12,
      "I think the bees will go somewhere else. There are other meadows. Four times is a lot of mowing and the machines are loud, and insects do not like noise. After five years people will notice it and stop.",
    ),
    essay(
      0.2,
      "When a meadow is mown four times a year the flowers do not have time to grow back. So there are fewer flowers, and the bees have less to eat. When they have less to eat they have fewer young. This goes on every year and after five years there are almost no bees.",
      "It is the same with butterflies.",
    ),
    essay(
      0.3,
      "The meadow was mown once a year in July, after the flowers had seeded. Now it is mown in May, June, August and September. In May the dandelions are cut, in June everything else. Plants that live for one year only cannot make seeds any more, so they disappear after the first or second year. Grass likes mowing and takes their place.",
      "Bees that come find only grass. They fly on to other places, and those that cannot fly far die out.",
    ),
    essay(
      0.4,
      "In the first year the number of flowers falls, but the plants are still there, because their roots live on. Bumblebees find less in June, when their colonies need most, and raise fewer queens.",
      "In the second and third year annual plants are gone, since they could not set seed. Insects that live on one kind of plant go with it.",
      "In the fourth and fifth year there are mostly grasses, white clover and dandelions. Honeybees and a few bumblebees still come to the clover between two cuts. The species that are left are the common ones.",
    ),
    essay(
      0.5,
      "Mowing acts in two ways: it takes away flowers, and it destroys nests and eggs. Four cuts mean that there are four weeks or more in which nothing flowers, spread over the summer.",
      "A bumblebee colony cannot wait. It has no stores for more than a few days, and when the meadow is cut in June, at the time of its greatest hunger, it starves or stays small. A small colony makes no queens for the next year. Solitary bees fly for a few weeks only; if the cut falls into these weeks, a whole year is lost.",
      "After five years the bees have not become a little fewer everywhere, but some kinds are gone and others are as common as before.",
    ),
    essay(
      0.6,
      "I would divide the answer by years. Year 1: the plants are the same, but they flower less, because each cut takes the buds. Visitors have gaps in their food. Year 2: annuals such as yellow rattle are gone, as they did not seed; yellow rattle had kept the grasses low, so now the grasses gain. Years 3 and 4: perennials that store in summer, like knapweed and scabious, get weaker each year and stop flowering. Year 5: what flowers is low and quick, such as clover, daisies and dandelions.",
      "The insects follow with a delay of a year. First those with one food plant vanish (the bees that need scabious), then long-tongued bumblebees, whose deep flowers are gone. Short-tongued and unspecialised ones remain.",
    ),
    essay(
      0.68,
      "The first step is in the flowers. A plant that is cut before its seeds are ripe leaves nothing behind; one that is cut while it fills its roots comes back weaker. So annuals go at once, and perennials within three or four years, while grasses, which grow from below, profit from every cut.",
      "The second step is time. One cut in July left an unbroken table from April until then. Four cuts make gaps of two to three weeks each, and an insect that lives for four weeks may see nothing but a gap.",
      "The third step is the nest. Bumblebees that nest in tussocks, and bees in dry stems, lose their nests under the machine; those in the ground survive, if the soil is not pressed too hard.",
      "So specialists and stem nesters go first, within two years, and after five there are the generalists that nest elsewhere.",
    ),
    essay(
      0.76,
      "Two things must be kept apart: how much flowers, and when. With four cuts the sum over the year may fall by half only, for clover flowers again and again. But for three weeks after each cut there is nothing, and an animal starves in the gap, not on the average.",
      "Colonies that last all summer suffer most from the gap in June, since they are large then and have no stores. Solitary bees suffer only when their few weeks coincide with it: an early mining bee has finished before the first cut in May, a scabious bee of August may find not one flower.",
      "Year by year the plants change too. What has to seed is gone after two years; what stores in summer fades; rosettes and creepers stay. Insects that depend on one of the former go with it, about a year later, since their last brood still hatches.",
      "I would expect, after five years, half of the species, but more than half of the individuals.",
    ),
    essay(
      0.84,
      "Before: one cut in July. Everything that flowers until then sets seed, tussocks and stems stand through the winter, and there is food from April to the cut and again in September.",
      "Step 1, from the first summer: each cut is followed by two or three weeks without flowers. The June gap hits bumblebee colonies at their largest; they raise fewer queens or none, which shows in the spring after.",
      "Step 2, from the second year: annuals are missing, because nothing seeded. Yellow rattle was one of them; without it the grasses close up and shade the seedlings of others.",
      "Step 3, to the fourth year: perennials that fill their roots in summer flower less each year. With knapweed and scabious go their own bees, and with deep flowers the long tongues.",
      "Step 4, all along: nests in stems and tussocks are cut off, nests in the ground are pressed, and hardly a place is left undisturbed from one summer to the next.",
      "After five years there are few species, all of them general feeders nesting elsewhere, and many individuals on clover between two cuts. Counted only then, it could look like no decline at all.",
    ),
    essay(
      0.91,
      "The chain runs from the mower over flowering, seed and nest to the insects, and each link has its own speed.",
      "Fastest is flowering. Every cut makes a gap of some weeks; who needs food every day and stores none is hit in the same summer. That is the bumblebee colony, and it is hit worst in June, when a hundred workers and the young queens are fed. In the first autumn nothing looks changed, yet fewer queens go into winter.",
      "Next is seed. Annuals are gone in the second year. Yellow rattle, which had drawn on the grasses, is among them, so the grasses grow denser and keep other seedlings down; the meadow becomes poorer in a way that no single cut explains.",
      "Slower are roots. Knapweed, scabious and sainfoin live on what they store in July; cut then, they flower a little less each year. Bees that take pollen from one of them only vanish a year after its last good summer.",
      "Slowest to be noticed is nesting. Stems and tussocks are gone each year, so whoever winters in them cannot come back even where there is food again.",
      "After five years I expect generalists that nest outside: honeybees, one or two short-tongued bumblebees, hoverflies on clover between two cuts. Evidence from our field camp: the strip mown weekly had three species, the bank mown once had fourteen.",
    ),
    essay(
      0.97,
      "What changes is not only how much there is to eat, but when, where from, and where to live. I take them in the order in which they act.",
      "When (from the first summer). One late cut leaves food from April to July without a break. Four cuts make four gaps of two to three weeks. A gap is fatal to whoever has no stores and cannot fly around it: the bumblebee colony in June, the small solitary bee whose whole life is four weeks. In our transects the small bees stayed within two hundred metres; they do not fly around a field.",
      "What (from the second year). Nothing that is cut before July sets seed. Annuals disappear, yellow rattle first, and the grasses it held back close the sward. Perennials that fill their roots in summer dwindle until about the fourth year. With scabious goes its mining bee, with deep flowers go long tongues; clover and dandelion, which flower below or between the cuts, remain.",
      "Where to live (each winter). Stems, tussocks and old grass, in which some nest and others spend the winter, are cut four times. Nests in the ground survive, unless the machine presses the soil.",
      "So specialists and stem nesters go first, long-tongued colonies next; the rest become fewer but do not vanish. After five years one may still count many insects on the clover, which is why species, and not visits, should be counted.",
    ),
  ],
  design: [
    essay(
      0.34,
      "Six squares of one metre, thrown at random. In each I count insects for ten minutes, in June and in August, for five years. The same person does it. I compare June with June and August with August. Clouds could mislead, so I write them down.",
    ),
    essay(
      0.55,
      "I would not count bees but cells in nesting blocks, because they do not depend on the hour. Ten blocks with drilled holes on the meadow and ten on one mown as before; each autumn the closed holes are counted. It shows only those that nest in holes, and that is its weakness, but two people who count get the same number.",
    ),
    essay(0.08, "Count the bees each week and write it down. If it gets less, then the mowing is to blame."),
    essay(
      0.18,
      "I would go to the meadow every Sunday and count all insects for one hour. After five years I compare the numbers. It could rain.",
    ),
    essay(
      0.28,
      "We walk along the meadow and count bees on both sides. We do this in spring, summer and autumn. Every year at the same time. The weather could mislead, because bees do not fly in the rain, so we only go when the sun shines.",
    ),
    essay(
      0.4,
      "Four transects of 50 m across the meadow, marked with posts. Two people walk each of them at noon and count every bee within 2 m. Once a month from April to September, only when it is warm. For five years. What could mislead is that another person counts differently.",
    ),
    essay(
      0.5,
      "I count bees and the flowers they sit on, along five fixed transects of 100 m. Every two weeks from April to September, between 11 and 2, above 15 °C and with little wind. The same two people count, and if one changes, both count together for a month.",
      "It could mislead that the years differ: a cold spring means fewer bees without any mowing.",
    ),
    essay(
      0.6,
      "What: species of bees and the number of open flowers, since the flowers should change first. Where: three fixed transects of 100 m in the meadow. When: twice a month from April to September, at noon, above 15 °C. How long: two years before the change and five after.",
      "Misleading: right after a cut there is nothing to see. I would count one week and three weeks after each cut, always the same.",
    ),
    essay(
      0.7,
      "The count needs something to compare with, for no two years are alike. So I take two meadows that are like each other, one mown once as before and one four times, and do the same on both: six transects of 50 m each, walked by the same people on the same day in turn, twice a month from April to September, between 11 and 14 h, above 15 °C, wind below 4.",
      "Counted are species, not only bees. After five years I compare how much the one meadow has changed against the other.",
    ),
    essay(
      0.8,
      "Question: does the number of species fall on a meadow mown four times? Method: eight meadows, of which four, drawn by lot, change to four cuts. On each two fixed transects of 100 m, walked on the same days by pairs that change meadows each time, so that a sharp eye does not always count the same place.",
      "Twice a month, April to September, 11 to 14 h, above 15 °C, little wind. Species of bees are noted with the flower they visit; what cannot be named is caught, looked at and let go.",
      "It could mislead that insects gather on what is left after a cut, so that counts rise for a day. The day after a cut is left out everywhere.",
    ),
    essay(
      0.88,
      "I count species and individuals of bees, and open flowers by species, because the chain goes over them. Places: four meadows changed, four unchanged, all within one valley; two fixed transects of 100 m on each. Times: every second week from April to September, at noon, above 15 °C and below wind force 4; two years before the change, five after. Order of the meadows by lot each day, counters in turn.",
      "What could mislead: the weather of a year (met by the unchanged meadows), the eye of a counter (met by taking turns), the day after a cut (left out), learning (species get easier to name with the years: specimens of the first year are looked at again in the last).",
    ),
    essay(
      0.95,
      "The change to be shown is one of difference between two ways of mowing, so the design is before and after, changed and unchanged. Eight meadows of one valley; four of them, by lot, are mown four times from the third year on. On each two transects of 100 m, posts at both ends, walked every second week from April to September between 11 and 14 h, above 15 °C, below wind force 4, in an order drawn anew each day, by four counters in turn.",
      "Noted: every bee within 2 m with species and flower; open flowers by species in ten squares along the line. Both, because if bees fall where flowers do not, it is not the mowing.",
      "Misleading and met: years (unchanged meadows), counters (turns), cuts (no count within three days), neighbours (a field of rape next door fills or empties any meadow: it is noted), and naming (vouchers from the first year are looked at again at the end). What I cannot meet is that eight meadows are few: a small change will not show, and I would say so.",
    ),
  ],
  flawed: [
    essay(
      0.1,
      "The survey was too short and not scientific. One would need more data and a control group. Also there is no graph.",
    ),
    essay(
      0.27,
      "They counted different things on different days. On Monday the wind blew, so the bees could not fly straight. I think on a calm day the field edge would have won, because it is bigger. They should do it again in summer.",
    ),
    essay(
      0.46,
      "The biggest mistake is the number of counters: two and five. Then comes the time of day. I would let the same group go to both places on the same day, first to one and next day first to the other, so that nobody can say that the hour did it.",
    ),
    essay(
      0.7,
      "Look at what changes with the place: the hour, the weather, the people. Then look at what was repeated: nothing. Then look at what is claimed: something about all gardens and all fields.",
      "I would choose four gardens and four edges near each other, visit each five times at noon in good weather, always with the same two people, and walk the same length everywhere. Only then I would compare, and I would also write down which bees they were.",
    ),
    essay(0.05, "They should count more bees."),
    essay(
      0.15,
      "It was cold on Monday so there were less bees. They should have gone on a warm day. Then it would be a good survey.",
    ),
    essay(
      0.22,
      "The survey is wrong because it was made on two days. Also the garden has more flowers. Gardens are not better for bees in general, it depends on the garden and what grows in it. I would ask the gardener.",
    ),
    essay(
      0.32,
      "On Monday it was early and cold with wind, on Thursday it was noon and warm. Bees fly when it is warm, so the numbers cannot be compared. You should count at the same time of day on both places.",
      "Also five people see more than two.",
    ),
    essay(
      0.4,
      "There are many mistakes: the time (7 to 8 is too early), the temperature (12 °C is too cold for most bees), the wind, and the number of people. A better survey would count in both places at noon, on the same day, with the same number of people.",
    ),
    essay(
      0.5,
      "Nothing is the same in the two counts except that both were an hour long. Early and cold against noon and warm, wind against calm, two counters against five. Any of these alone could make the difference of 30 to 40. If two people see 30 in the cold, five people could have seen far more than 40.",
      "Better: the same people, the same hours, both places on the same days.",
    ),
    essay(
      0.58,
      "The place is mixed up with the hour, the weather, and the number of counters, so we cannot say which of them made the difference. In fact 30 bees by two people are 15 each, and 40 by five are 8 each, so one could claim the opposite with the same numbers.",
      "It should be done with two people at each place, at noon, at more than 15 °C, and three times, changing the places between the pairs.",
    ),
    essay(
      0.66,
      "Five things differ with the place: hour, temperature, wind, counters, and day. Each changes how many bees are seen, so the conclusion does not follow. Each place was counted once, so we do not know how much two counts of the same place differ.",
      "A fair survey walks transects of the same length with the same two people, in turn, at the same hours, above 15 °C, on at least five days.",
    ),
    essay(
      0.75,
      "First, the two counts differ in everything: hour, warmth, wind, and number of eyes. Second, each was made once; perhaps the garden would have had 20 on another Thursday. Third, one garden is not “gardens” and one edge is not “fields”.",
      "Better: several gardens and several edges, transects of one length, the same pair of counters going to all of them in an order drawn by lot, between 11 and 2, above 15 °C and without much wind, on five days or more. Then compare the means, with how far the days scatter.",
    ),
    essay(
      0.83,
      "What is compared is not garden and field, but a cold, windy, early hour seen by two with a warm, calm noon seen by five. The difference in counters alone would explain more than 30 against 40: per counter it is 15 against 8. Nothing was repeated, so there is no measure of chance; and with one place of each kind the last sentence says far more than was seen.",
      "I would take six gardens and six field edges, a transect of 100 m in each, the same two people, all places on the same day in changing order, 11 to 14 h, within a weather window, on at least six days from May to August, and note species too: a garden full of honeybees is not what was asked.",
    ),
    essay(
      0.9,
      "Confounded with the place are the hour, the temperature (at 12 °C most bees do not fly), the wind, the day, and the number of counters. Unrepeated are both the visit and the place. And the question is not defined: more visits in one hour is not “better for bees”; that could mean more species, more food, more nests.",
      "Design: six places of each kind; transects of one length; each pair of counters walks both kinds; order by lot; 11 to 14 h, above 15 °C, wind under 4; ten days over the season. Count species and individuals. Report the difference with its scatter.",
      "One more thing: what happens to be seen in a garden may come from the field. A garden can be a table without being a home.",
    ),
    essay(
      0.96,
      "Each thing that differs besides the place is a rival explanation: hour (7 against 12), warmth (12 °C is below what most bees fly at), wind, day, and effort (two counters against five). By effort the figures even turn round: 15 bees for each counter at the edge, 8 in the garden. One visit to one place of each kind leaves no measure of chance and allows no plural: “gardens”, “fields”. And “better” was never measured; a count of visits says where they ate for an hour.",
      "I would ask: do gardens have more species of bees than field edges? Eight of each within one landscape; a transect of 100 m in each; the same two counters walk four of each kind a day in an order drawn by lot, 11 to 14 h, 15 °C or more, little wind; ten days from April to August. Species are noted, doubtful ones caught. The comparison is between the means of places, not of visits, and its uncertainty is given.",
    ),
  ],
  why: [
    essay(0.05, "More flowers grow on the south side of everything."),
    essay(
      0.18,
      "Because of the thyme. Bees love thyme, it smells good. To test it I would take the thyme away and see if the bees go away too.",
    ),
    essay(
      0.33,
      "In the shade the ground was still wet from the night, and wet flowers are hard to get into. So they all went to the sunny side. I would repeat the count in the afternoon, when both sides are dry, and see whether it is equal then.",
    ),
    essay(
      0.48,
      "A bank facing south gets the sun at a steeper angle, so it warms up more. Warm nectar is also easier to drink. Bees learn where it is good and come back. I would count both banks every hour for a whole day and draw a curve.",
    ),
    essay(
      0.62,
      "The two banks differ in sun and in plants. Sun: the first bees came there one and a half hours earlier. Plants: I counted 40 heads of thyme in a square on the sunny bank and 12 on the other.",
      "I would shade a part of the sunny bank with a sheet for a morning, and leave another part as it is. The flowers are the same then, only the warmth is not. It should be done on several mornings, each time with the sheet on another part.",
    ),
    essay(
      0.78,
      "Visits are visitors times trips. On the warm bank there are more trips, as a bee that is warm between two flights starts again at once; and there are more visitors, because the thyme is there.",
      "Test: take flowers out of the comparison. Count only on patches with the same number of open heads, say twenty, on both banks, from eight to twelve, on at least three days of the same weather, the counters changing sides each hour. If three to one remains, it is the warmth; if it comes down to one to one, it was the flowers.",
    ),
    essay(0.1, "There were more bees because it was sunny there. I would look again."),
    essay(
      0.25,
      "The south-facing bank gets more sun. Bees like sun and warmth. I would test it by counting again on another day and see if it is the same. If it is the same then it is the sun.",
    ),
    essay(
      0.4,
      "A bank that faces south is warmer in the morning, and bees have to be warm before they can fly. So they start there earlier and have more time. There were also more flowers, mostly thyme.",
      "I would count again on three days at the same hours on both banks.",
    ),
    essay(
      0.55,
      "Insects warm up in the sun before they fly, so a bank that has sun two hours earlier has two hours more of visits. On the second day the south-facing bank also had about twice as many open flowers of thyme.",
      "To test it I would count the flowers as well and divide the visits by them. If the banks still differ, it is the warmth.",
    ),
    essay(
      0.7,
      "There are two causes, and they go together. The bank that faces south dries and warms early, so small bees, which cannot make much heat of their own, can fly there first. And thyme grows on it because it is warm and dry, so there is more to fetch.",
      "To part them I would put the same pots of thyme on both banks and count at the same hours on several days. What remains different is the warmth.",
    ),
    essay(
      0.85,
      "Warmth and flowers both favour the south-facing bank. A small bee has to bring its flight muscles to about thirty degrees; in the sun that takes minutes, in the shade it may not succeed at all before ten. And the bank carried three times as much open thyme. As the visits were three times as many, the flowers alone could explain it, the warmth alone too.",
      "A fair test changes one thing: pots with the same number of thyme heads on both banks, the meadow round them mown, counts from eight to noon on five mornings of the same weather, places of the pots exchanged each day. If the visits at the pots are equal, it was the flowers.",
    ),
    essay(
      0.93,
      "Three times the visits may come from more visitors, more hours, or visitors that come back more often. By the notebook the first visit on the south-facing bank was at 8:10 and on the other at 9:50, and after eleven both had about as many in ten minutes; so much of it is hours, and that is the warmth. The rest goes with the thyme, of which there was more.",
      "I would set the same pots of thyme on both banks for five mornings, exchange them each day, and note when the first visitor comes and how many there are in each quarter of an hour. If the pots differ only early in the morning, it is the warmth; if they differ all day, something else.",
    ),
  ],
  swarm: [
    essay(
      0.2,
      "I would not call the fire brigade because they are for fires. Bees in a tree are normal in May. If you wait they go away, but do not wait under the tree.",
    ),
    essay(
      0.38,
      "Dear neighbour, please stay calm. The bees are looking for a new home and do not want anything from you. Do not hit the branch and do not make smoke. In one or two days they are gone, and if not, you can still call someone.",
    ),
    essay(
      0.53,
      "It is your lucky day: a swarm is the friendliest state in which bees can be met. They left their hive because it got too small and now they rest. Keep a little distance, keep the dog on a lead, and ring a beekeeper, who will collect them for nothing. The fire brigade would only ring the beekeeper as well.",
    ),
    essay(
      0.68,
      "No fire brigade, please. The bees have eaten before they left and have no home to protect, so they will not go for you unless they are squeezed or shaken. Give them some room and an undisturbed evening. I can come at dusk, when the scouts are back, and knock them into a box; or they choose a hollow themselves and are gone by the day after tomorrow at the latest.",
    ),
    essay(
      0.85,
      "You can leave the fire brigade in peace, and the bees too. A swarm hangs together to keep its queen warm while a few hundred scouts look at hollows; it is full of honey, has no brood, and so no reason to sting. I should only keep four or five steps away, close the window on that side, and not water the lawn under it. It ends by itself within two days. If I may have them, hang a sheet under the branch before seven and I will bring the box.",
    ),
    essay(
      0.1,
      "Do not go near it! Call somebody who knows about bees. They can sting you all at once and it is very dangerous, so better leave the house until they are gone.",
    ),
    essay(
      0.3,
      "No, do not call the fire brigade. The bees will fly away by themselves after some days. Just leave them alone and keep the windows shut.",
    ),
    essay(
      0.45,
      "Dear neighbour, a swarm is not dangerous as long as you leave it alone. It is a queen with her bees looking for a new home. Usually it is gone after a day or two. Call a beekeeper if you want it to go sooner.",
    ),
    essay(
      0.6,
      "You can put the telephone down. A swarm has left its old home with its honey stomachs full and has nothing to defend, so it hardly stings. Stay a few steps away and keep the children and the dog indoors. Scouts are looking for a hollow, and within a day or two they will all fly off. If you like, I can give you the number of a beekeeper, who would be glad of it.",
    ),
    essay(
      0.78,
      "No need, and they would not know what to do with it. What hangs there is an old queen with half of her people, on the way to a new home. They carry food for three days and have no brood and no stores, so there is nothing that they would sting for, unless somebody shakes the branch. Look at it from five steps away; it is worth seeing. Tell me, and I will come this evening with a box, for then they sit quietly; otherwise they will be gone by tomorrow or the day after.",
    ),
    essay(
      0.92,
      "No, and you may pour yourself a cup of tea. It looks wild, but bees are never gentler than in a swarm: they have filled themselves with honey for the journey and have neither brood nor stores to guard. From five steps away you may watch them as long as you like. What they do not care for is being shaken, sprayed with water, or breathed upon. They are waiting for their scouts, and when these agree on a hollow they all leave at once, within an hour or within two days. If a chimney of yours is what they agree on, you would rather I came first: I will be there at seven with a box and a sheet.",
    ),
  ],
  spray: [
    essay(
      0.18,
      "The best time is early in the morning before the bees get up. Then it is dry when they come.",
    ),
    essay(
      0.34,
      "You should not spray at all because it kills bees and other animals. There are also natural ways. If you really have to, do it when the flowers are gone.",
    ),
    essay(
      0.5,
      "Wait until the petals have fallen. As long as there are flowers, bees visit them from morning until evening, and with the nectar they would carry the spray into the hive. After that, spray after sunset on a day without wind, and not more than the packet says.",
    ),
    essay(
      0.69,
      "Two questions decide it: is anything in flower, and is anything flying? If currants or the weeds under them flower, do not spray; mow the weeds first. If it has to be done, do it after sunset, when the bees are at home, with something that breaks down overnight. And ask me for the ladybirds’ larvae; there are plenty on my beans.",
    ),
    essay(
      0.85,
      "When nothing flowers, nothing flies, and nothing else helps. Nothing flowers: for the currants that is from May on, but look below them too. Nothing flies: from sunset until the dew has dried. Nothing else helps: most of what curls the leaves in May is eaten by the middle of June. If you still want to, say so a day before, so that my bees can stay in.",
    ),
    essay(0.1, "You can spray when you want if the packet says it is safe for bees."),
    essay(
      0.25,
      "Not during the day. It is better to spray in the evening when the bees are in the hive. In the morning it is dry and they can come again.",
    ),
    essay(
      0.42,
      "Please do not spray while the currants flower, because bees take the nectar and carry the poison home. After flowering you can spray in the evening. Most things are gone by the next morning.",
    ),
    essay(
      0.6,
      "Not in flower. Currants flower in April, and bees need them then, because there is not much else. After that, look whether anything flowers under the bushes, such as dandelions, for bees come to these as well. If you have to, then late in the evening, when nothing flies and the leaves can dry overnight.",
    ),
    essay(
      0.78,
      "Never while they flower, and not while anything flowers beneath them: what lands on a dandelion is in my hive an hour later. If it must be, choose an evening without wind, after the last bee has gone home, and something that has gone by the morning; and let me know the day before, so that I can shut the hives for the night. But first look at the leaves. If it is aphids, the ladybirds will be there in a week.",
    ),
    essay(
      0.92,
      "First: do you have to? Curled leaves look worse than they are, and a bush with aphids in May has ladybirds in June if nobody sprays. If you must, there are three rules. Not in flower, neither the bush nor what grows under it, for bees take it home and feed it to the young. Not by day: wait for a still evening when nothing flies, so that it is dry by the morning. And not with something that works for weeks: the packet says how long. Tell me a day before; I will keep mine in until noon.",
    ),
  ],
};

/** Few words put in place of others, as one does who takes over what another wrote. */
const CHANGED: readonly (readonly [string, string])[] = [
  ["I would expect", "One would expect"],
  ["Two things must be kept apart", "There are two different things"],
  ["The first step is in the flowers.", "First come the flowers."],
  ["suffer most", "suffer the most"],
  ["Year by year", "From year to year"],
  ["What is compared is not", "They do not compare"],
  ["three weeks", "a few weeks"],
  ["First, ", "Firstly, "],
  ["Better: ", "It would be better to take "],
];

/** An essay as somebody hands it in who had it from another: nearly the same words. */
export const takenOver = ({ quality, paragraphs }: SampleEssay): SampleEssay => ({
  quality,
  paragraphs: paragraphs
    .slice(0, Math.max(1, paragraphs.length - 1))
    .map((each) => CHANGED.reduce((text, [from, to]) => text.replace(from, to), each)),
});
