// Names of the tags of TIFF 6.0 and EXIF 3.0 (section 4.6) by directory.

// oxfmt-ignore
const MAIN: Readonly<Record<number, string>> = {
  254: 'NewSubfileType', 255: 'SubfileType', 256: 'ImageWidth', 257: 'ImageLength', 258: 'BitsPerSample', 259: 'Compression',
  262: 'PhotometricInterpretation', 263: 'Threshholding', 266: 'FillOrder', 269: 'DocumentName', 270: 'ImageDescription',
  271: 'Make', 272: 'Model', 273: 'StripOffsets', 274: 'Orientation', 277: 'SamplesPerPixel', 278: 'RowsPerStrip',
  279: 'StripByteCounts', 280: 'MinSampleValue', 281: 'MaxSampleValue', 282: 'XResolution', 283: 'YResolution',
  284: 'PlanarConfiguration', 285: 'PageName', 286: 'XPosition', 287: 'YPosition', 296: 'ResolutionUnit', 297: 'PageNumber',
  301: 'TransferFunction', 305: 'Software', 306: 'DateTime', 315: 'Artist', 316: 'HostComputer', 317: 'Predictor',
  318: 'WhitePoint', 319: 'PrimaryChromaticities', 320: 'ColorMap', 322: 'TileWidth', 323: 'TileLength', 324: 'TileOffsets',
  325: 'TileByteCounts', 330: 'SubIFDs', 338: 'ExtraSamples', 339: 'SampleFormat', 347: 'JPEGTables',
  513: 'JPEGInterchangeFormat', 514: 'JPEGInterchangeFormatLength', 529: 'YCbCrCoefficients', 530: 'YCbCrSubSampling',
  531: 'YCbCrPositioning', 532: 'ReferenceBlackWhite', 700: 'XMP', 33432: 'Copyright', 33723: 'IPTC', 34377: 'ImageResources',
  34665: 'ExifIFD', 34675: 'ICCProfile', 34853: 'GPSIFD', 50706: 'DNGVersion', 50707: 'DNGBackwardVersion',
  50708: 'UniqueCameraModel', 50735: 'CameraSerialNumber', 50827: 'OriginalRawFileName',
};

// oxfmt-ignore
const EXIF: Readonly<Record<number, string>> = {
  33434: 'ExposureTime', 33437: 'FNumber', 34850: 'ExposureProgram', 34852: 'SpectralSensitivity', 34855: 'PhotographicSensitivity',
  34856: 'OECF', 34864: 'SensitivityType', 34865: 'StandardOutputSensitivity', 34866: 'RecommendedExposureIndex', 34867: 'ISOSpeed',
  34868: 'ISOSpeedLatitudeyyy', 34869: 'ISOSpeedLatitudezzz', 36864: 'ExifVersion', 36867: 'DateTimeOriginal',
  36868: 'DateTimeDigitized', 36880: 'OffsetTime', 36881: 'OffsetTimeOriginal', 36882: 'OffsetTimeDigitized',
  37121: 'ComponentsConfiguration', 37122: 'CompressedBitsPerPixel', 37377: 'ShutterSpeedValue', 37378: 'ApertureValue',
  37379: 'BrightnessValue', 37380: 'ExposureBiasValue', 37381: 'MaxApertureValue', 37382: 'SubjectDistance', 37383: 'MeteringMode',
  37384: 'LightSource', 37385: 'Flash', 37386: 'FocalLength', 37396: 'SubjectArea', 37500: 'MakerNote', 37510: 'UserComment',
  37520: 'SubSecTime', 37521: 'SubSecTimeOriginal', 37522: 'SubSecTimeDigitized', 37888: 'Temperature', 37889: 'Humidity',
  37890: 'Pressure', 37891: 'WaterDepth', 37892: 'Acceleration', 37893: 'CameraElevationAngle', 40960: 'FlashpixVersion',
  40961: 'ColorSpace', 40962: 'PixelXDimension', 40963: 'PixelYDimension', 40964: 'RelatedSoundFile', 40965: 'InteroperabilityIFD',
  41483: 'FlashEnergy', 41484: 'SpatialFrequencyResponse', 41486: 'FocalPlaneXResolution', 41487: 'FocalPlaneYResolution',
  41488: 'FocalPlaneResolutionUnit', 41492: 'SubjectLocation', 41493: 'ExposureIndex', 41495: 'SensingMethod', 41728: 'FileSource',
  41729: 'SceneType', 41730: 'CFAPattern', 41985: 'CustomRendered', 41986: 'ExposureMode', 41987: 'WhiteBalance',
  41988: 'DigitalZoomRatio', 41989: 'FocalLengthIn35mmFilm', 41990: 'SceneCaptureType', 41991: 'GainControl', 41992: 'Contrast',
  41993: 'Saturation', 41994: 'Sharpness', 41995: 'DeviceSettingDescription', 41996: 'SubjectDistanceRange', 42016: 'ImageUniqueID',
  42032: 'CameraOwnerName', 42033: 'BodySerialNumber', 42034: 'LensSpecification', 42035: 'LensMake', 42036: 'LensModel',
  42037: 'LensSerialNumber', 42038: 'ImageTitle', 42039: 'Photographer', 42040: 'ImageEditor', 42041: 'CameraFirmware',
  42042: 'RAWDevelopingSoftware', 42043: 'ImageEditingSoftware', 42044: 'MetadataEditingSoftware', 42080: 'CompositeImage',
  42081: 'SourceImageNumberOfCompositeImage', 42082: 'SourceExposureTimesOfCompositeImage', 42240: 'Gamma',
};

const GPS: Readonly<Record<number, string>> = Object.fromEntries(
  [
    'VersionID',
    'LatitudeRef',
    'Latitude',
    'LongitudeRef',
    'Longitude',
    'AltitudeRef',
    'Altitude',
    'TimeStamp',
    'Satellites',
    'Status',
    'MeasureMode',
    'DOP',
    'SpeedRef',
    'Speed',
    'TrackRef',
    'Track',
    'ImgDirectionRef',
    'ImgDirection',
    'MapDatum',
    'DestLatitudeRef',
    'DestLatitude',
    'DestLongitudeRef',
    'DestLongitude',
    'DestBearingRef',
    'DestBearing',
    'DestDistanceRef',
    'DestDistance',
    'ProcessingMethod',
    'AreaInformation',
    'DateStamp',
    'Differential',
    'HPositioningError',
  ].map((name, tag) => [tag, `GPS${name}`]),
);

const INTEROP: Readonly<Record<number, string>> = {
  1: 'InteroperabilityIndex',
  2: 'InteroperabilityVersion',
  4096: 'RelatedImageFileFormat',
  4097: 'RelatedImageWidth',
  4098: 'RelatedImageLength',
};

export const EXIF_TAGS = { main: MAIN, exif: EXIF, gps: GPS, interop: INTEROP } as const;

export const EXIF_TAG = {
  description: 270,
  model: 272,
  orientation: 274,
  software: 305,
  dateTime: 306,
  exposureTime: 33434,
  fNumber: 33437,
  sensitivity: 34855,
  exifVersion: 36864,
  dateTimeOriginal: 36867,
  dateTimeDigitized: 36868,
  offsetTimeOriginal: 36881,
  exposureBias: 37380,
  flash: 37385,
  focalLength: 37386,
  subSecTimeOriginal: 37521,
  focalLength35: 41989,
  lensModel: 42036,
} as const;

export const GPS_TAG = {
  version: 0,
  latitudeRef: 1,
  latitude: 2,
  longitudeRef: 3,
  longitude: 4,
  altitudeRef: 5,
  altitude: 6,
  directionRef: 16,
  direction: 17,
} as const;
