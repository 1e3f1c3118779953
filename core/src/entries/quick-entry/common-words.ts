// Everyday English: the words of four letters or more that are spoken most, by their count in film subtitles (SUBTLEXus; Brysbaert & New,
// Behavior Research Methods 41, 2009), and what offices, trades and places are called everywhere (practice). Inflections are left out.

const common = new Set(
  `
aaron abandon abbott abby ability able aboard abortion about above absolute absurd abuse academy accent accept access accident
accidentally accomplished according account accurate accused achieve acid across acted acting action active activity actor actress acts
actual adam added addition address admin administration admiral admire admit admitted adopted adorable adore adult advance advantage
adventure advertising advice advise affair affect affection afford afraid africa after afternoon afterwards again against agency agenda
agent ages aggressive agree agreement ahead ahem aircraft airplane airport aisle alan alarm albert album alcohol alert alexander alfred
alibi alice alien alike alison alive allen allergic alley alliance allow ally almighty almost alone along alpha already alright also
alternative although always amazing ambassador amber ambulance amen america american among amongst amount amusing analysis anchor ancient
anderson andrew andromeda angel anger angle angry animal ankle anna anne annie anniversary announce announcement annoying annual anonymous
another answer anthony ants anxious anybody anyhow anymore anyone anything anytime anyway anywhere apart apartment apollo apologise
apologize apology apparently appeal appear appearance appetite applause apple application apply appointment appreciate approach
appropriate approval approve approximately april archive area aren argue argument ariel arizona armed armor arms army arnold around
arrange arrangement arrest arrival arrive arrow arthur article artist arts artwork ashamed ashes aside asked asking asks asleep aspirin
association atlantic atmosphere attached attack attempt attend attention attic attitude attorney attracted attractive auction audience
audio audition august aunt auntie austin australia author authority auto autograph automatic autopsy autumn available avenue average avoid
awake award aware away awesome awful awhile awkward babe baby bachelor back background backup backwards backyard bacon badge badly bags
bail bailey bait baker balance balcony bald baldrick ball ballet balloon baltimore banana band bang bank barbara barbecue bare bargain
barking barn barney baron barrel barry bars bartender base baseball basement basic basically basis basket basketball bass bath bathroom
battery battle beach beam beans bear beast beat beaten beautiful beauty became because become bedroom beds beef been beer before began
begged begging begin beginning behalf behave behavior behind being belief believe bell belle belly belong beloved below belt bench bend
beneath benefit benjamin benny bent berlin bernard beside best beth betray bets better betting betty between beyond bible bigger biggest
bike bill billie billion billy bingo bird birth birthday bishop bite bits bitter bizarre black blackmail blade blah blake blame blanche
blank blanket blast bleed bless blew blind block blond blonde blood bloody blow blown blue board boat bobby body bold bond bone bonnie
bonus book bookkeeping boom boot booth border bore born borrow boss boston both bottle bottom bought bounce bound bounty bout bowl boxes
boxing boyfriend boys bracelet brad brain branch brand brandon brandy brass brave bravo bread break breakdown breakfast breast breath
breathe bree breeze bret brian brick bride bridge brief briefcase bright brilliant bring british broad broadcast broadway brochure broke
broken brooklyn brooks brother brought brown bruce brush brutal bubble buck bucket buddy budget buffalo bugs build built bull bullet bully
bump bunch bundy bunny burden bureau burger buried burke burn burnt burst burt bury bush business businessman bust busy butcher butler
butt button buying buys buzz cabin cabinet cable caesar cafe cage cake calendar california call calm calvin came camera camp campaign
campus canada canal cancel cancer candidate candle candy cane cannon cannot cans canyon capable capacity cape capital captain capture card
care careful cargo carl carmen carnival carol caroline carpet carriage carried carry cars cart case cash casino cast castle casual
casualties catalogue catch catering cathedral catherine catholic cathy cats cattle caught cause cave cease ceiling celebrate celebration
celebrity cell cellar cemetery cent central centre century ceremony certain certificate chad chain chair chairman challenge chamber champ
champagne champion championship chan chance chandler change channel chaos chapel chapter character charge charity charles charley charlie
charlotte charm chart chase chat cheap cheat check check-in cheek cheer cheese chef chemical chemistry cherry chess chest chew chicago
chick chicken chief child childhood children chili chill chin china chinese chip chloe chocolate choice choose chop chopper chose chosen
chuck chuckles church cigar cigarette cinema circle context circus citizen city civil civilian civilization claim claire clarence
clark class classic claus clay clean clear clerk cleveland clever client cliff climb clinic clock close closest closet clothes clothing
cloud clown club clue coach coast coat code coffee coffin cohen coin coincidence coke cold cole colin collar collect collection college
collins colonel color colour columbo column coma combat combination come comedy comfort comfortable comic command comment commercial
commission commit commitment committed committee common communicate communication communist community company compare compete competition
complain complaint complete complex complicated compliment compound compromise computer comrade concentrate concept concern concert
conclusion concrete condition conduct conference confess confession confidence confident confirm conflict confused confusing confusion
congratulate congratulations congress connect connection connie conscience consciousness consent consequences consider conspiracy constant
construction contact content contest continue contract contrary control controlled convenient convention conversation convicted convince
cook cookie cool coop cooperate cooperation cops copy cord core corn coroner corporal corporate corporation corps correct corridor cost
costume cotton couch cough could couldn council counsel counselor count country county couple courage course court courtesy courtroom
cousin cover coward cowboy cows crab crack craig crane crash crawl crazy cream create creative creature credit creek creep creepy crew
cried cries crime criminal crisis critical cross crowd crown cruel cruise crush crying crystal cuba culture cure curiosity curious current
curse curtain custody customer cute cuts cutting cynthia daddy daily daisy dale dallas damage dame dammit dana dance danger dangerous
daniel danny daphne dare dark darkness darling darn data date daughter dave david davis dawn daylight days deadline deaf deal dealt dean
dear dearest death debate debbie debt debug december decent decide decision deck declare dedicated deed deep deer defeat defence defend
defendant defense definitely degree delay delicate delicious delighted delightful deliver delivery delta demand demo demon demonstration
denied dennis dentist denver deny department depend deploy deposit depressed depression depth deputy describe description desert deserve
design desire desk desperate despite dessert destiny destroy destruction detail detective determine detroit develop development device
devil devon devoted dial diamond diana diane diary dice didn died diego dies diet difference different difficult digging digital dignity
dime diner dining dinner direct direction director dirt dirty disappear disappoint disaster discipline discover discovery discuss
discussion disease disgrace disguise disgusting dish dismissed disorder display distance distant distracted distress district disturb
ditch dive divine division divorce dizzy dock doctor document dodge does doesn dogs doing doll dollar donald done donna donny doomed door
doorbell dope doris dorm dorothy double doubt dough douglas down downstairs downtown dozen draft drag dragged dragon drain drama dramatic
drank draw drawn dreadful dream dress drew drill drink drive driven drop dropped dropping drove drown drum duck dude duke dull dumb dummy
dump during dust dutch duty dying dynamite each eagle earl earlier early earn ears earth ease easier easily east eastern easy eaten eating
eats edgar edge edit editor education edward effect effective effort eggs eight either elaine elder eleanor elected election electric
electrical electricity elements elephant elevator eleven elizabeth ellen else elvis email embarrass embassy embrace emergency emily emma
emotion emotional emperor empire employee empty ended ending ends enemy energy engaged engagement engine england english enjoy enormous
enough enter enterprise entertainment entire entitled entrance entry context environment envy episode equal equipment eric erin error
escape escort especially established estate estimate eternal eternity eugene europe european evans even event eventually ever every
everybody everyday everyone everything everywhere evidence evil ewing exact exam examine example excellency excellent except exception
exchange excited excitement exciting exclusive excuse executed execution executive exercise exhausted exhibit exhibition exist existence
exit expect expense expensive experience experiment expert explain explanation explode explosion expose express expression extra
extraordinary extreme eyes fabulous face facility fact factor factory fail failure faint fair fairy faith faithful fake fall fallen false
fame familiar family famous fancy fans fantastic fantasy farewell farm fascinating fashion fast fatal fate father fault favor favorite
favour favourite fear federal feds feed feedback feel feet felicity felix fell fella fellow felt female fence festival fetch fete fever
field fifteen fifth fifty fight figure file fill film filthy final finance financial find fine finest finger fingerprints finish fire firm
first fish fist fits five fixed fixing flag flame flash flat flattered fleet flesh fletcher flew flies flight flip float floor florida
flow fluid flush flying focus fold folk follow fond food fool foolish foot footage football forbid forbidden force ford forehead foreign
forest forever forget forgetting forgive forgiveness forgot forgotten fork form formal formula fort forth fortunate fortune forty forward
foster fought foul found foundation fountain four fourth frame france francis francisco frank frankenstein franklin frasier fraud freak
fred free freedom freeze french fresh freshman friday fridge fried friend friendship fries frightened frog from front frozen fruit fuel
full fully function fund funeral funny furniture further fuss future gain gallery gamble game gang garage garbage garden gary gasps gate
gather gave gear geek geez gene general generation generous genetic genius gentle gentleman gentlemen gently genuine george georgia german
germany gesture gets getting ghost giant gift gimme girl girlfriend give given glad glass glen gloria glorious glory glove goal goat
goddess gods goes going gold golden golf gone gonna good goodbye goodness goodnight goose gorgeous gosh gossip gotcha gotta gotten
government governor grab grabbed grace gracious grade graduate graduation graham grams grand grandfather grandma grandmother grandpa
grandson granny grant grass grateful gratitude grave gray grease great greatest greek green grew grey grief griffin grip groans groom
gross ground group grow grown grunts guarantee guard guardian guess guest guidance guide guild guilt guilty guitar guts guys habit hack
hail hair haircut half halfway hall hallelujah halloween hallway halt hamburger hamilton hammer hand handle handsome handy hang hank hans
happen happier happily happiness happy harbor harbour hard harm harmless harmony harold harper harriet harris harrison harry harsh hart
harvard harvey hasn hatch hate hats haul haunted have haven hawaii hawk hawkeye head headache headquarters heal health healthy hear heart
heat heather heaven heavy heck hector heel height held helen helicopter helio hello helmet help helpful helpless henry hercules herd here
heritage hero herr hers herself hidden hide high highest highness highway hill himself hint hire history hitler hits hitting hiya hobby
hockey hold hole holiday hollow holly hollywood holmes holy home homeless homework homicide honest honesty honey honeymoon hong honor
honorable honour hood hook hope hopefully hopeless hopper horn horny horrible horror horse hose hospital host hostage hostile hotel hour
house household houston howdy however hudson huge human humanity humble humor hunch hundred hung hungry hunt hurricane hurry hurt husband
hush hustle hysterical idea ideal identification identified identify identity idiot ignore illegal illness illusion image imagination
imagine immediate impact importance important impossible impress impression impressive improve inch incident include income increase
incredible incredibly indeed independent indicate individual industry infected infection influence info inform information injured injury
inner innocent insane insanity inside insist inspector inspiration inspired install installation instance instant instead instinct
institute institution instructions instrument insult insurance integrity intelligence intelligent intend intense intention interest
interfere interior internal international interrupt interview intimate into introduce invasion invented investigate investigation
investment invisible invitation invite invoice involved iron island issue item itself jack jacket jackie jackson jacob jail jake james
jammed jane janet japan japanese jason jazz jealous jean jeep jeez jeff jefferson jelly jenna jenny jeremy jerk jerry jersey jess jesse
jewel jewelry jewish jews jill jimmy joan jobs jock joel joey john johnny johnson join joint joke jolly jonathan jones jordan joseph josh
journal journey joyce juan judge judgment judy juice julian julius july jump june jungle junior junk jury just justice kane kansas karate
karen katherine kathy keep kelly kennedy kenny kent kept keys kick kidding kiddo kidnapped kidnapping kidney kids kind kinda kindness king
kingdom kirk kiss kitchen kitty knee knew knife knight knives knock know knowledge known kong korea korean kyle labor lack ladder lads
lady laid lake lamb lame lamp lance land lane language large largest larry laser last late latest latin laugh laughter launch laundry
laura lawn lawrence laws lawyer laying layout lazy lead league leak lean learn least leather leave lecture left legal legend legitimate
legs lemon lend length leon leonard lesbian less lesson lester lets letter letting level lewis liable liar liberty library license lick
lied lies lieutenant life lifetime lift light lightning like lily limit limo lincoln linda line ling link lion lips lipstick liquid liquor
list listen literally little live lizzie load loan lobby lobster local locate location lock loft logan logical logo london lonely lonesome
long look loose lord lori lose loss lost lots loud louie louis louise lounge lousy love lower loyal loyalty luck lucky lucy luggage luke
lunatic lunch lung luther lying lynn machine mack madam madame made mademoiselle madison madness magazine maggie magic magical magician
magnificent magnum maid mail main maintain maintenance majesty major make makeup male mall mama manage management manhattan maniac mankind
manner manny manor manual manufacturing many march marco margaret maria marie marilyn marine mark market marriage married marry mars
marshal marshall martha martin martini marvelous mary mask mason mass massage massive master match mate material math matt matthew mature
maximum maybe mayor mccoy meadow meal mean meant meantime meanwhile measure meat medal media medical medication medicine medium meet
melissa melt member memorial memory mental mention menu mercy mere merry mess message messenger metal meters method mexican mexico miami
michael mick mickey middle midnight might mighty mike mile military milk mill million milo mind mine minimum minister minor minus minute
miracle mirror miserable misery miss missile mission missy mistake mistaken mister mistress misunderstanding mitch mixed mobile model
modern mole molly moment momma mommy mona monday money monica monitor monk monkey monsieur monster month mood moon moonlight moore moral
more morgan morgue morning moron morris mortal moscow moses most motel mother motion motive motor motorcycle mount mountain mouse mouth
move movement movie much mulder mule multiple mummy murphy murray muscle museum music musical must mutual myself mysterious mystery myth
nail name nancy nanny narrator narrow nasty nation national native natural nature naughty navy near nearby nearest neat necessarily
necessary neck necklace need needle negative neighbor neighborhood neither nelson nephew nerve nervous nest network nevada never news
newsletter newspaper next nice nick nickel nicky niece night nightmare nine noah noble nobody noel noise none nonsense noon nope normal
norman north northern nose note nothing notice notify novel november nowadays nowhere nuclear number nurse nuts oath obey object objection
objective observation observe obsessed obvious occasion occasionally occur occurred ocean october odds offended offense offer office
official often ohio okay older oldest olive once ones only onto oops open opera operate operation operator opinion opportunity opposed
opposite option orange orchestra order ordinary organ organization organized original orleans oscar other otherwise ouch ought ours
ourselves outer outfit outside outstanding outta oven over overnight owed owes owned owner owns oxygen pace pacey pacific pack package
page paid pain painful paint pair palace pale palm pancakes panel panic panties pants papa paper paperwork parade paradise paranoid pardon
parent paris park parole part particular partner party pass passage passenger passion passport password past patch path pathetic patience
patient patrick patrol pattern patty paul paulie pavilion paying payment pays peace peaceful peanut pearl peculiar peggy penalty pencil
penny people pepper percent perfect perform performance perfume perhaps perimeter period permanent permission permit perry person personal
personality personnel perspective pervert pete petty phase phil philadelphia philip philosophy phoebe phoenix phone phony photo photograph
photography phrase physical physics piano pick pickup picnic picture piece pier pierce pierre pigs pile pill pillow pilot pimp pink pipe
pirate pistol pitch pity pizza place plague plain plan plane planet planned planner planning plant plastic plate platoon play playhouse
plaza plead pleasant please pleasure plenty plot plug plus pocket poem poet poetry point poison poker pole police policeman policy polish
polite political politics pond pony pool poor popcorn pope popped pops popular population porch pork port portal portfolio position
positive possession possibility possible possibly post potato potential potion potter pound pour powder power powerful practical practice
praise pray precinct precious precisely prefer pregnant prep prepare prescription presence present presentation president press pressure
presume pretend pretty prevent previous price prick pride priest primary prime prince princess principal principle print prior priority
prison privacy private privilege prize probably problem procedure proceed process procurement produce product production profession
professional professor profile profit program programme progress project prom promise promotion proof proper property proposal propose
proposition prosecution prosecutor prostitute protect protection protest protocol prototype proud prove provide psychiatrist psychic
psycho public publicity published publishing pull pulse pump pumpkin punch punish punishment punk puppy purchase pure purple purpose purse
pursuit push puts putting puzzle qualified quality quarter quay queen question quick quiet quit quite quitting quote rabbit race rack
racket radar radiation radio rage raid railroad railway rain rainbow raise rally ralph ranch random randy range rank ransom rare rash rate
rather rats reach react reaction read ready real realise reality realize rear reason reasonable recall receipt receive recent reception
recipe recognize recommend record recover recovery reed reese refer reference refit refresh refrigerator refurb refurbishment
refuse regard register registration regret regular rehearsal related relations relationship relative relax release relief relieved
religion religious rely remain remarkable rembrandt remember remind remote remove render rent rental repair repeat replace reply report
represent reputation request require rescue research reservation reserve residence resident resist resistance resort resources respect
respond response responsibility responsible rest restaurant result retire retirement retreat return reunion reveal revenge reverend
reverse review revolution reward rhythm ribs rice rich richard rick ride ridge ridiculous rifle rigging right ring ripped rise risk risky
rita ritual river road roast robbed robbery robe robert robin robinson robot rock rocket rocky rode roger role roll roman romance romantic
rome romeo roof room roommate root rope rory rose ross rotten rough round route routine royal rubber ruby rude ruin rule rumor running
runs rush russ russell russia russian rusty ruth sack sacred sacrifice saddle safe safety said sail sailor saint sake salad salary sale
salesman sally salt salute same sammy sample samson sand sandra sandwich sandy sang santa sarah sarge satan satellite satisfaction
satisfied saturday sauce saunders sausage savage save saying says scale scan scandal scar scare scary scene schedule scheme scholarship
school science scientific scientist scope score scotch scotland scott scout scrambled scratch scream screen screw script scum seal search
season seat seattle second secret secretary section sector secure security seed seeing seek seem seen sees self selfish sell semester
senator send senior sense sensitive sent sentence sentimental separate september sequence sergeant serial series serious servant serve
service session seth sets setting settle setup seven seventh several severe shadow shaft shake shakespeare shall shame shape share shark
sharon sharp shave shaw shawn shed sheep sheet sheila shelf shelly shelter shepherd sheriff sherry shield shift shine shiny ship shirley
shirt shock shoe shoot shop shopping shore short shot should shouldn shout shove show shown shrimp shrink shut sick sickness side sidney
sighs sight sign signage signal signature silence silent silk silly silver similar simon simple simply simpson since sing single sink sins
sire sissy sister site sits sitting situation sixteen sixth size sketch skies skin skinny skip skipper skirt skull slap sleep sleepy slept
slice slide slight slim slip slipped slow smack small smart smash smell smile smith smoke smooth snack snake snap sneak snow soap sober
soccer social society sock soda soft software soil sold soldier solid solo solution solve some somebody someday somehow someone someplace
something sometime somewhat somewhere song sonny sons sookie soon sore sorry sort soul sound soup source south southern soviet space spain
spanish spare speak spec special species specific specifically specification speech speed spell spencer spend spent spider spike spill
spin spinning spirit spiritual spit spite splendid split spoil spoke spoken spoon sport spot spotted spray spread spring squad square
squeeze stab stabbed stable staff stage stairs stake stall stand standard stanley star stare start starving state statement station statue
status stay steady steak steal steam steel stella step stephen stepped stepping steve steven stick stiff still sting stink stitch stock
stole stolen stomach stone stood stop stopped stopping storage store storm story stove straight straighten strain strange strategy stream
street strength stress stretch strict strike string strip stroke strong struck structure struggle stuart stubborn stuck stud student
studied studio study stuff stunt stupid style subject submarine substance subtitles subtle subway succeed success successful such suck
sudden suffer sugar suggest suggestion suicide suit suitcase suite summary summer sunday sunny sunset sunshine super superior superman
supper supplier supply support suppose supreme sure surface surgeon surgery surgical surprise surrender surrounded surveillance survey
survival survive susan suspect suspended suspicion suspicious sustained swallow swamp swap swear sweat sweep sweet sweetheart sweetie
swell swim swimming swing switch sword swore sworn sydney sylvia symbol sympathy symptoms synchro system table tail take taken takin tale
talent talk tall tank tape target tarzan task taste tattoo taught taxes taxi teach team tear tech technical technique technology teddy
teeth telegram telephone television teli tell tellin temper temperature template temple temporary tend tennis tense tension tent term
terminal terrace terrible terribly terrific terrified territory terror terrorist terry test testify testimony texas text than thank
thanksgiving that theater theatre thee their them theme themselves then theory therapist therapy there therefore these they thick thief
thieves thin thing think third thirsty thirty this thomas thompson those thou though thought thoughtful thousand threat threaten three
threw thrill throat throne through throughout throw thrown thumb thunder thursday thus tick ticket tide tidy tied ties tiger tight till
time tiny tips tire tissue title toast tobacco toby today toes together toilet tokyo told tolerate tommy tomorrow tone tongue tonight tons
tony took tool tooth tops tore torn torture toss total touch tough tour tournament toward towel tower town toys trace track trade
tradition traditional traffic tragedy tragic trail train traitor tramp transcript transfer transferred translation transmission transport
trap trapped trash trauma travel travis tray treasure treat treatment tree tremendous trial trick tricky tried tries trigger trip triple
troops trophy trouble troy truck true truly trunk trust truth trying tube tuck tuesday tuna tune tunnel turkey turn turtle twelve twenty
twice twin twist tyler type typical ugly ultimate umbrella unable unbelievable uncle uncomfortable unconscious under undercover
underground underneath understand understood underwear unexpected unfair unfortunate unhappy uniform union unique unit universe university
unknown unless unlike until unto unusual update upload upon upper upset upside upstairs urgent used useful useless uses using usual
vacation valentine valley valuable value vampire vanessa various vault vegas vehicle venue verdict veronica version versus very vessel
vice vicious victim victor victoria victory video vietnam view village vincent violation violence violent violet virgin virginia virus
vision visit visitor visual vital vodka voice volume volunteer vote vulnerable wade wagon wait waitress wake walk wall wallet wally walt
wandering wang wanna want ward warden warehouse warm warn warrant warren warrior wars wash washington wasn waste watch water watson wave
wayne ways weak weakness wealthy wear weather weaver website wedding wednesday weed week weekend weigh weight weird welcome welfare weli
well went were weren wesley west western whack whale what whatever whatsoever wheel when whenever where wherever whether which while whip
whipped whiskey whisper whistle white whitey whoa whoever whole whom whoo whose wicked wide widow wife wild will william willie willy
wilson wind window wine wing winner winning wins winter wipe wire wireframes wisdom wise wish witch with within without witness wives
wizard woke wolf woman women wonder wonderful wong wood wooden woody word wore work workshop world worm worn worried worry worse worship
worst worth worthless worthy would wouldn wound wrap wrapped wreck wrestling wrist write written wrong wrote yacht yale yankee yard yeah
year yell yellow yesterday yoga york young your yourself yourselves youth zack zero zone
`
    .split(/\s+/)
    .filter(Boolean),
);

const INFLECTIONS = [
  ['ies', 'y'],
  ['es', ''],
  ['s', ''],
  ['ed', ''],
  ['ed', 'e'],
  ['d', ''],
  ['ing', ''],
  ['ing', 'e'],
  ['ly', ''],
  ['er', ''],
  ['er', 'e'],
] as const;

/** Whether a word in small letters, or what it is an inflection of, is everyday English. */
export function isCommon(word: string): boolean {
  const plain = word.replace(/['’]s$/, '');
  return (
    common.has(plain) ||
    INFLECTIONS.some(([ending, base]) => plain.endsWith(ending) && common.has(plain.slice(0, -ending.length) + base))
  );
}
