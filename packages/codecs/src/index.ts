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
export { readDatagram } from './capture/read-datagram.ts';
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
export { LtcWavReader } from './ltc/read-ltc-wav.ts';
export { LtcReader } from './ltc/ltc-reader.ts';
export { LtcWriter } from './ltc/write-ltc.ts';
export { MtcReader, fullFrame, quarterFrame, readMtc } from './midi/mtc.ts';
export { beginsWithQuarterFrame, readRtpMidi, writeMidiPacket, writeSession } from './midi/rtp-midi.ts';
export { SizedReader, writeSized } from './sized.ts';
export { SlipReader, writeSlip } from './slip.ts';
export { WavFault } from './wav/wav-format.ts';
export { WavReader } from './wav/read-wav.ts';
export { pcmOf, wavHead } from './wav/write-wav.ts';
export { readWake, writeWake } from './wake.ts';
export { readListing } from './listing/read-listing.ts';
export { utf8Bytes, utf8Text } from './text.ts';
export type { Layer, Part } from './anatomy/walker.ts';
export type { CapturedFrame, CaptureFault, CaptureSummary } from './capture/capture-reader.ts';
export type { CapturedDatagram } from './capture/read-datagram.ts';
export type { Sighting } from './capture/sighting.ts';
export type { UnreadLine } from './listing/listed.ts';
export type { ListingKind, ListingRead } from './listing/read-listing.ts';
export type { Challenge, DigestAlgorithm, DigestRequest, HexHash } from './digest.ts';
export type { CsvRead } from './csv.ts';
export type { DhcpMessage } from './dhcp-message.ts';
export type { Arp, Bpdu, Echo, Frame, Icmp, Ip, Probe, Tcp, TcpFlag, Udp, Unreachable } from './ethernet/frame.ts';
export type { StampedFrame } from './capture/write-capture.ts';
export type { HeardWord } from './ltc/ltc-reader.ts';
export type { LtcShape } from './ltc/write-ltc.ts';
export type { LtcTime } from './ltc/ltc-word.ts';
export type { WavFormat } from './wav/wav-format.ts';
export type { MidiControl, MidiMessage } from './midi/midi.ts';
export type { MtcPiece, MtcTime } from './midi/mtc.ts';
export type { Invitation, MidiPacket, RtpMidiRead, SessionPacket } from './midi/rtp-midi.ts';
export type { OscArg, OscBundle, OscMessage, OscPacket, OscRead } from './osc.ts';
