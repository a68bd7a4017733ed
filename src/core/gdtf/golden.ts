/** A maker's file as the standard describes it, written by hand: what readers are held against. Used by tests alone. */
import { zipSync } from 'fflate';

/** A PNG of one white point. */
export const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mP8/x8AAwMCAO+ip1sAAAAASUVORK5CYII=',
  'base64',
);

/** A description of a head with a ring, in our own made-up world, that uses most of what DIN SPEC 15800 has. */
export const HEAD = `<?xml version="1.0" encoding="UTF-8" standalone="no" ?>
<GDTF DataVersion="1.2">
 <FixtureType Name="Oriel 300" ShortName="OR3" LongName="Oriel 300 wash" Manufacturer="Quillon" Description="A head with a ring"
   FixtureTypeID="5c1f6f0e-7d0a-4a53-9c11-aa0102030405" Thumbnail="oriel" RefFT="">
  <AttributeDefinitions/>
  <Wheels>
   <Wheel Name="Colours">
    <Slot Name="Open" Color="0.3127,0.3290,100.000"/>
    <Slot Name="Harbour red" Color="0.640,0.330,12.5"/>
    <Slot Name="Tide" MediaFileName="tide"/>
   </Wheel>
  </Wheels>
  <PhysicalDescriptions>
   <Emitters>
    <Emitter Name="Red LED" Color="0.7006,0.2993,21.0" DominantWaveLength="625"/>
    <Emitter Name="Green LED" Color="0.1547,0.8059,71.5"/>
   </Emitters>
   <Filters><Filter Name="Cyan glass" Color="0.18,0.30,40"/></Filters>
   <Properties><Weight Value="12.500000"/><PowerConsumption Value="410"/></Properties>
  </PhysicalDescriptions>
  <Models><Model Name="Base" Length="0.3" Width="0.4" Height="0.2" File="base" PrimitiveType="Base"/></Models>
  <Geometries>
   <Geometry Name="Base" Model="Base" Position="{1,0,0,0}{0,1,0,0}{0,0,1,0}{0,0,0,1}">
    <Axis Name="Yoke" Position="{1,0,0,0}{0,1,0,0}{0,0,1,-0.1}{0,0,0,1}">
     <Axis Name="Head" Position="{1,0,0,0}{0,1,0,0}{0,0,1,-0.25}{0,0,0,1}">
      <Beam Name="Lens" BeamType="Wash" BeamAngle="22" LuminousFlux="9000" ColorTemperature="6500"/>
      <GeometryReference Name="Ring left" Geometry="Ring" Position="{1,0,0,-0.1}{0,1,0,0}{0,0,1,0}{0,0,0,1}"><Break DMXBreak="1" DMXOffset="11"/></GeometryReference>
      <GeometryReference Name="Ring right" Geometry="Ring" Position="{1,0,0,0.1}{0,1,0,0}{0,0,1,0}{0,0,0,1}"><Break DMXBreak="1" DMXOffset="13"/></GeometryReference>
     </Axis>
    </Axis>
   </Geometry>
   <Geometry Name="Ring"/>
  </Geometries>
  <DMXModes>
   <DMXMode Name="Basic" Geometry="Base">
    <DMXChannels>
     <DMXChannel DMXBreak="1" Offset="1,2" Default="32768/2" Highlight="None" Geometry="Yoke" InitialFunction="Yoke_Pan.Pan.Pan 1">
      <LogicalChannel Attribute="Pan" Snap="No" Master="None"><ChannelFunction Name="Pan 1" Attribute="Pan" DMXFrom="0/2" Default="32768/2" PhysicalFrom="270" PhysicalTo="-270" RealFade="2.7"/></LogicalChannel>
     </DMXChannel>
     <DMXChannel DMXBreak="1" Offset="3,4" Highlight="None" Geometry="Head" InitialFunction="Head_Tilt.Tilt.Tilt 1">
      <LogicalChannel Attribute="Tilt"><ChannelFunction Name="Tilt 1" Attribute="Tilt" DMXFrom="0/2" Default="128/1" PhysicalFrom="-135,5" PhysicalTo="135,5"/></LogicalChannel>
     </DMXChannel>
     <DMXChannel DMXBreak="1" Offset="5" Highlight="255/1" Geometry="Lens" InitialFunction="Lens_Shutter1.Shutter1.Shutter 1">
      <LogicalChannel Attribute="Shutter1" Snap="Yes">
       <ChannelFunction Name="Shutter 1" Attribute="Shutter1" DMXFrom="0/1" Default="25/1" PhysicalFrom="0" PhysicalTo="1">
        <ChannelSet Name="Closed" DMXFrom="0/1" WheelSlotIndex="0"/>
        <ChannelSet Name="Open" DMXFrom="20/1" WheelSlotIndex="0"/>
       </ChannelFunction>
       <ChannelFunction Name="Strobe 1" Attribute="Shutter1Strobe" DMXFrom="50/1" Default="50/1" PhysicalFrom="1" PhysicalTo="20" ModeMaster="Lens_Control1" ModeFrom="0/1" ModeTo="99/1"/>
       <ChannelFunction Name="Random 1" Attribute="Shutter1StrobeRandom" DMXFrom="50/1" Default="50/1" PhysicalFrom="1" PhysicalTo="10" ModeMaster="Lens_Control1" ModeFrom="100/1" ModeTo="255/1"/>
      </LogicalChannel>
     </DMXChannel>
     <DMXChannel DMXBreak="1" Offset="6" Geometry="Lens"><LogicalChannel Attribute="ColorAdd_R"><ChannelFunction Name="Red" Attribute="ColorAdd_R" DMXFrom="0/1" Default="0/1" Emitter="Red LED" PhysicalFrom="0" PhysicalTo="1"/></LogicalChannel></DMXChannel>
     <DMXChannel DMXBreak="1" Offset="7" Geometry="Lens"><LogicalChannel Attribute="ColorAdd_G"><ChannelFunction Name="Green" Attribute="ColorAdd_G" DMXFrom="0/1" Default="0/1" Emitter="Green LED" PhysicalFrom="0" PhysicalTo="1"/></LogicalChannel></DMXChannel>
     <DMXChannel DMXBreak="1" Offset="8" Geometry="Lens" InitialFunction="Lens_Color1.Color1.Wheel"><LogicalChannel Attribute="Color1" Snap="On">
       <ChannelFunction Name="Wheel" Attribute="Color1" DMXFrom="0/1" Default="0/1" Wheel="Colours" PhysicalFrom="0" PhysicalTo="1">
        <ChannelSet Name="Open" DMXFrom="0/1" WheelSlotIndex="1"/><ChannelSet Name="Red" DMXFrom="10/1" WheelSlotIndex="2"/><ChannelSet Name="" DMXFrom="20/1"/><ChannelSet Name="Tide" DMXFrom="30/1" WheelSlotIndex="3"/>
       </ChannelFunction>
       <ChannelFunction Name="Spin" Attribute="Color1WheelSpin" DMXFrom="128/1" Wheel="Colours" PhysicalFrom="-90" PhysicalTo="90"/>
      </LogicalChannel></DMXChannel>
     <DMXChannel DMXBreak="1" Offset="9" Geometry="Lens" InitialFunction="Lens_Control1.Control1.Control 1"><LogicalChannel Attribute="Control1" Snap="Yes"><ChannelFunction Name="Control 1" Attribute="Control1" DMXFrom="0/1" Default="0/1"/></LogicalChannel></DMXChannel>
     <DMXChannel DMXBreak="1" Offset="10" Geometry="Lens"><LogicalChannel Attribute="NoFeature"><ChannelFunction Name="Reserved" Attribute="NoFeature" DMXFrom="0/1" Default="0/1"/></LogicalChannel></DMXChannel>
     <DMXChannel DMXBreak="Overwrite" Offset="1" Geometry="Ring"><LogicalChannel Attribute="ColorAdd_R"><ChannelFunction Name="Red" Attribute="ColorAdd_R" DMXFrom="0/1" Default="0/1" Emitter="Red LED"/></LogicalChannel></DMXChannel>
     <DMXChannel DMXBreak="Overwrite" Offset="2" Geometry="Ring"><LogicalChannel Attribute="ColorAdd_G"><ChannelFunction Name="Green" Attribute="ColorAdd_G" DMXFrom="0/1" Default="0/1" Emitter="Green LED"/></LogicalChannel></DMXChannel>
     <DMXChannel DMXBreak="1" Offset="None" Geometry="Lens"><LogicalChannel Attribute="Dimmer"><ChannelFunction Name="Dimmer" Attribute="Dimmer" DMXFrom="0/1" Default="0/1"/></LogicalChannel></DMXChannel>
    </DMXChannels>
    <Relations><Relation Name="r" Master="Lens_Dimmer" Follower="Lens_ColorAdd_R.ColorAdd_R.Red" Type="Multiply"/></Relations>
    <FTMacros><FTMacro Name="Reset"><MacroDMX><MacroDMXStep Duration="5"><MacroDMXValue Value="200/1" DMXChannel="Lens_Control1"/></MacroDMXStep></MacroDMX></FTMacro></FTMacros>
   </DMXMode>
  </DMXModes>
  <Revisions><Revision Date="2026-01-05T10:00:00" Text="first"/><Revision Date="2026-03-02T08:30:00" Text="ring added"/></Revisions>
 </FixtureType>
</GDTF>`;

/** A GDTF archive around a description. */
export const gdtfOf = (
  xml: string | Uint8Array,
  more: Record<string, Uint8Array> = {},
): Uint8Array =>
  zipSync({
    'description.xml': typeof xml === 'string' ? new TextEncoder().encode(xml) : xml,
    ...more,
  });

/** A roof of four sides and a floor, two metres wide, a metre deep and one tall, as binary glTF byte by byte: y is up, and it is lifted by its node. */
export function roofGlb(): Uint8Array {
  const json =
    '{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"translation":[0,0.5,0],"mesh":0}],' +
    '"meshes":[{"primitives":[{"attributes":{"POSITION":0},"indices":1,"mode":4}]}],"buffers":[{"byteLength":96}],' +
    '"bufferViews":[{"buffer":0,"byteOffset":0,"byteLength":60},{"buffer":0,"byteOffset":60,"byteLength":36}],' +
    '"accessors":[{"bufferView":0,"componentType":5126,"count":5,"type":"VEC3","min":[-1,-0.5,-0.5],"max":[1,0.5,0.5]},' +
    '{"bufferView":1,"componentType":5123,"count":18,"type":"SCALAR"}]}';
  const text = Buffer.from(json.padEnd(Math.ceil(json.length / 4) * 4, ' '));
  const bytes = Buffer.alloc(12 + 8 + text.length + 8 + 96);
  bytes.write('glTF', 0);
  bytes.writeUInt32LE(2, 4);
  bytes.writeUInt32LE(bytes.length, 8);
  bytes.writeUInt32LE(text.length, 12);
  bytes.write('JSON', 16);
  text.copy(bytes, 20);
  const bin = 20 + text.length;
  bytes.writeUInt32LE(96, bin);
  bytes.write('BIN\0', bin + 4);
  const corners = [-1, -0.5, -0.5, 1, -0.5, -0.5, 1, -0.5, 0.5, -1, -0.5, 0.5, 0, 0.5, 0];
  corners.forEach((v, i) => bytes.writeFloatLE(v, bin + 8 + i * 4));
  const sides = [0, 1, 2, 0, 2, 3, 0, 4, 1, 1, 4, 2, 2, 4, 3, 3, 4, 0];
  sides.forEach((v, i) => bytes.writeUInt16LE(v, bin + 68 + i * 2));
  return new Uint8Array(bytes);
}

/** The head with a ring, with its pictures and its body. */
export const headFile = (): Uint8Array =>
  gdtfOf(HEAD, {
    'wheels/tide.png': PNG,
    'oriel.png': PNG,
    'models/gltf/base.glb': roofGlb(),
  });
