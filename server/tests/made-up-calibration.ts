/** A made-up file of open XML calibration data, with everything that the format knows and some that it does not. */
export const MADE_UP = `<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE lensdatabase SYSTEM "calibration.dtd">
<lensdatabase version="1">
  <mount><name>Tarn T</name><compat>Old Tarn</compat></mount>
  <camera><maker>Tarn</maker><maker lang="de">Tarn-Werke</maker><model>T1</model><mount>Tarn T</mount><cropfactor>1.5</cropfactor></camera>
  <camera><maker>Tarn</maker><model>P5</model><mount>tarnP5</mount><cropfactor>4.6</cropfactor></camera>
  <camera><maker>Tarn</maker><model>Broken</model><mount>Tarn T</mount><cropfactor>many</cropfactor></camera>
  <lens>
    <maker>Tarn</maker>
    <model>Tarn 10-20mm f/4 &amp; friends</model>
    <model lang="de">Tarn 10-20mm f/4 und Freunde</model>
    <mount>Tarn T</mount><mount>Old Tarn</mount>
    <cropfactor>1.5</cropfactor>
    <calibration>
      <distortion model="ptlens" focal="10" a="0.018" b="-0.06" c="0.02"/>
      <distortion model="poly3" focal="14" k1="-0.02"/>
      <distortion model="poly5" focal="20" k1="0.012" k2="-0.004"/>
      <distortion model="spline9" focal="12"/>
      <distortion model="poly3" focal="11" k1="-0.9"/>
      <tca model="linear" focal="10" kr="1.0002" kb="0.9997"/>
      <tca model="poly3" focal="20" br="0.0001" cr="-0.0002" vr="1.0003" bb="-0.0001" vb="0.9998"/>
      <vignetting model="pa" focal="10" aperture="4" distance="10" k1="-0.7" k2="0.2" k3="-0.05"/>
      <vignetting model="pa" focal="10" aperture="8" distance="1000" k1="-0.4" k2="0.1" k3="0"/>
    </calibration>
  </lens>
  <lens>
    <maker>Tarn</maker><model>Tarn 8mm f/2.8 Fisheye</model><mount>Tarn T</mount>
    <type>equisolid</type><cropfactor>1.5</cropfactor><aspect-ratio>4:3</aspect-ratio>
    <calibration>
      <distortion model="ptlens" focal="8" a="0" b="-0.01" c="0"/>
      <real-focal-length focal="8" real-focal="8.3"/>
    </calibration>
  </lens>
  <lens><maker>Tarn</maker><model>fixed lens</model><mount>tarnP5</mount><cropfactor>4.6</cropfactor>
    <calibration><distortion model="poly3" focal="5" k1="-0.01"/></calibration></lens>
  <lens><maker>Tarn</maker><model>Tarn Panorama</model><mount>Tarn T</mount><type>panoramic</type><cropfactor>1.5</cropfactor>
    <calibration><distortion model="poly3" focal="5" k1="-0.01"/></calibration></lens>
  <lens><maker>Tarn</maker><model>Tarn 50mm f/2</model><mount>Tarn T</mount><cropfactor>1.5</cropfactor></lens>
</lensdatabase>
`;

/** Entities that would grow to gigabytes if they were expanded. */
export const ENTITY_BOMB = `<?xml version="1.0"?>
<!DOCTYPE lensdatabase [
  <!ENTITY a "aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa">
  <!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">
  <!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;">
]>
<lensdatabase version="1"><lens><maker>&c;</maker></lens></lensdatabase>`;
