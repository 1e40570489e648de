/** Words of the trades that mean the same to a shopper: the first stands for the others of its line. */
export const thesaurus: readonly string[] = `
trousers, pants, slacks
jumper, sweater, pullover, knitwear
trainers, sneakers
tap, faucet
rubbish, trash, garbage, waste
bin, wastebasket
torch, flashlight
nappy, diaper
pram, stroller, pushchair, buggy
cot, crib
sofa, couch, settee
wardrobe, armoire
curtain, drape
cooker, stove, hob
frying, skillet
tin, can
crockery, dinnerware, tableware
cutlery, flatware
mug, cup
jug, pitcher
duvet, comforter, quilt
lamp, light, lighting
lawnmower, mower
spade, shovel
secateurs, pruner, pruning
hosepipe, hose
allotment, vegetable
sapling, seedling
planter, flowerpot
fertiliser, fertilizer, feed
weed, weeding
wellington, wellies, wellie
coat, jacket
hat, headwear
gauntlet, glove, gloves
sock, hosiery
handbag, purse
rucksack, backpack
suitcase, luggage
spectacles, glasses, eyewear
jewellery, jewelry
biscuit, cookie
sweet, candy, confectionery
crisp, chip
jam, preserve, marmalade
beehive, hive
bee, apiary, beekeeping, beekeeper
veil, hood
candle, taper
shampoo, haircare
perfume, fragrance, scent
moisturiser, lotion, cream
plaster, bandage
aeroplane, airplane, aircraft
bicycle, bike, cycle, cycling
tyre, tire
petrol, gasoline, fuel
lorry, truck
spanner, wrench
screwdriver, driver
wallpaper, wallcovering
stationery, writing
notebook, journal, notepad
pencil, crayon
rubber, eraser
cookbook, cookery
jigsaw, puzzle
soft, plush
toy, plaything
child, children, kid, kids, junior
baby, infant, newborn
woman, women, lady, ladies, womens
man, men, gentleman, mens
dog, canine, puppy
cat, feline, kitten
fishing, angling
tent, camping
sleeping, bivouac
kayak, canoe
ski, skiing
swim, swimming, swimwear
football, soccer
yoga, pilates
dumbbell, weights
piano, keyboard
television, tv
headphone, earphone, headset
camera, photography
printer, printing
charger, charging
cable, lead, cord
battery, accumulator
speaker, loudspeaker
clock, timepiece
phone, telephone, mobile, smartphone
watch, wristwatch
frame, framing
shelf, shelving
cupboard, cabinet
drawer, drawers
chair, armchair
bed, bedding
basin, sink
toilet, lavatory, wc
shower, showering
heater, heating, radiator
beer, ale, lager
spirit, liquor
cheese, dairy
meat, butcher
bread, bakery
pasta, noodle
bottle, flask
bag, sack
tool, implement
kit, set, starter
part, spare, component
gift, present
tree, trees
shrub, bush
fence, fencing
shed, outbuilding
greenhouse, glasshouse, polytunnel
barbecue, bbq, grill
wool, yarn
fabric, textile, cloth
thread, cotton
needle, pin
sewing, haberdashery
knitting, crochet
bead, beads
medicine, remedy, pharmacy
vitamin, supplement
mask, respirator
saddle, saddlery
horse, equestrian, equine
poultry, chicken, hen
poison, pesticide
`
  .trim()
  .split("\n");
