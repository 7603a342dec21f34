/**
 * Code words for clips: short, easily told apart, without order, price, praise or tonal meaning.
 * Things of garden, harbour, kitchen and workshop.
 */
export const CODE_WORDS: readonly string[] = (
  'Otter Quill Tulip Comet Ferry Nutmeg Acorn Badger Basil Bobbin Bucket Button Cactus Candle Canoe ' +
  'Cedar Cherry Clover Cobalt Cradle Daisy Desert Domino Donkey Dragon Easel Elbow Falcon Fennel ' +
  'Finch Flint Fossil Garden Ginger Glacier Goblet Hammer Harbor Hazel Heron Hinge ' +
  'Igloo Indigo Jacket Jigsaw Juniper Kayak Kettle Kitten Ladder Lagoon Lantern Lemon Lizard ' +
  'Locket Magnet Mango Maple Marble Meadow Mitten Napkin Needle Nettle Oasis Olive Orchid Oyster ' +
  'Paddle Parrot Pebble Pepper Pigeon Pocket Puzzle Rabbit Radish Raven Rocket Saddle ' +
  'Salmon Sandal Sparrow Spruce Teapot Thimble Thistle Ticket Timber Tomato Turtle Umbrella Valley ' +
  'Violet Walnut Walrus Willow Window Yarrow Zebra Zipper'
).split(' ');
