export {
  algorithmOf,
  authorizationHeader,
  challengeHeader,
  digestResponse,
  readChallenges,
  readDigestFields,
  usernameOf,
} from './digest.ts';
export { immediately, readOsc, tagOfTime, timeOfTag, writeOsc } from './osc.ts';
export { oscWords } from './osc-words.ts';
export { anatomyOf } from './anatomy/anatomy.ts';
export { CaptureReader } from './capture/capture-reader.ts';
export { readFrame } from './capture/read-frame.ts';
export { readBlock, readCsv, writeBlock, writeCsv } from './csv.ts';
export { looksLikeXlsx, readXlsx } from './xlsx.ts';
export { dhcpTypes, readDhcpMessage, writeDhcp } from './dhcp-message.ts';
export { bridgeGroup, everybody, groupMac } from './ethernet/frame.ts';
export { wireBytes, writeFrame } from './ethernet/write-frame.ts';
export { writeCapture } from './capture/write-capture.ts';
export { ExclusiveJoiner, segments } from './midi/exclusive.ts';
export { JournalWriter, Restorer, isBefore } from './midi/journal.ts';
export { midiControl, midiFromWords, midiWords } from './midi/midi.ts';
export { MtcReader, fullFrame, quarterFrame } from './midi/mtc.ts';
export { beginsWithQuarterFrame, readRtpMidi, writeMidiPacket, writeSession } from './midi/rtp-midi.ts';
export { SizedReader, writeSized } from './sized.ts';
export { SlipReader, writeSlip } from './slip.ts';
export { readWake, writeWake } from './wake.ts';
export { readListing } from './listing/read-listing.ts';
export { utf8Bytes, utf8Text } from './text.ts';
export type { Layer, Part } from './anatomy/walker.ts';
export type { CapturedFrame, CaptureFault, CaptureSummary } from './capture/capture-reader.ts';
export type { Sighting } from './capture/sighting.ts';
export type { UnreadLine } from './listing/listed.ts';
export type { ListingKind, ListingRead } from './listing/read-listing.ts';
export type { Challenge, DigestAlgorithm, DigestRequest, HexHash } from './digest.ts';
export type { CsvRead } from './csv.ts';
export type { DhcpMessage } from './dhcp-message.ts';
export type { Arp, Bpdu, Echo, Frame, Icmp, Ip, Probe, Tcp, TcpFlag, Udp, Unreachable } from './ethernet/frame.ts';
export type { StampedFrame } from './capture/write-capture.ts';
export type { MidiControl, MidiMessage } from './midi/midi.ts';
export type { MtcTime } from './midi/mtc.ts';
export type { Invitation, MidiPacket, RtpMidiRead, SessionPacket } from './midi/rtp-midi.ts';
export type { OscArg, OscBundle, OscMessage, OscPacket, OscRead } from './osc.ts';
