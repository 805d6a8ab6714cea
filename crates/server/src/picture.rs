//! Pictures that are uploaded: decoded within limits and written anew, so that nothing is kept but what one sees. Where
//! it was taken, by whom and with what, a camera writes into the file; and a file made to harm whoever opens it does
//! not survive being written by us.

use std::io::Cursor;

use image::codecs::gif::{GifDecoder, GifEncoder, Repeat};
use image::codecs::jpeg::JpegEncoder;
use image::error::ImageError;
use image::imageops::FilterType;
use image::{AnimationDecoder, DynamicImage, Frame, ImageDecoder, ImageFormat, ImageReader, Limits};

/// Widest and highest picture, pixels.
pub(crate) const SIDE: u32 = 6_000;
/// Memory that decoding one may take, bytes.
const MEMORY: u64 = 160 * 1024 * 1024;
/// Most pictures of one that moves.
const FRAMES: usize = 300;
/// Most pixels of them all.
const MOVING: u64 = 40_000_000;
/// Side of the picture of a person or a firm, pixels.
const FACE: u32 = 192;
/// How closely a photograph is kept, of 100.
const QUALITY: u8 = 85;

/// A picture as it is kept.
#[derive(Debug)]
pub(crate) struct Picture {
    /// Its media type.
    pub(crate) media_type: &'static str,
    /// Its bytes.
    pub(crate) content: Vec<u8>,
}

/// Why a picture is not taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub(crate) enum PictureError {
    /// It is larger than its size would tell.
    #[error("this picture has too many pixels; {SIDE} by {SIDE} are the most")]
    Large,
    /// It moves for too long.
    #[error("this picture moves for too long; save it with fewer or smaller frames")]
    Long,
    /// It is damaged, or not what it says.
    #[error("this picture cannot be read; it may be damaged: save it anew and try again")]
    Unreadable,
}

impl From<ImageError> for PictureError {
    fn from(error: ImageError) -> Self {
        if matches!(error, ImageError::Limits(_)) { Self::Large } else { Self::Unreadable }
    }
}

fn limits() -> Limits {
    let mut limits = Limits::default();
    limits.max_image_width = Some(SIDE);
    limits.max_image_height = Some(SIDE);
    limits.max_alloc = Some(MEMORY);
    limits
}

/// Decodes a picture of a media type and writes it anew, turned as its camera says and without anything else of what
/// stood beside it. A photograph in WebP becomes a JPEG: what writes WebP keeps every pixel as it is, which would make
/// it many times larger.
pub(crate) fn written_anew(media_type: &str, content: &[u8]) -> Result<Picture, PictureError> {
    match media_type {
        "image/gif" => moving(content),
        "image/png" => still(content, ImageFormat::Png),
        "image/jpeg" => still(content, ImageFormat::Jpeg),
        "image/webp" => still(content, ImageFormat::WebP),
        _ => Err(PictureError::Unreadable),
    }
}

/// A picture's pixels, turned as its camera says.
fn decoded(content: &[u8], format: ImageFormat) -> Result<DynamicImage, PictureError> {
    let mut reader = ImageReader::with_format(Cursor::new(content), format);
    reader.limits(limits());
    let mut decoder = reader.into_decoder()?;
    let turned = decoder.orientation()?;
    let mut picture = DynamicImage::from_decoder(decoder)?;
    picture.apply_orientation(turned);
    Ok(picture)
}

/// The picture of a person or a firm: its middle as a small square. Of one that moves the first frame.
pub(crate) fn face(media_type: &str, content: &[u8]) -> Result<Picture, PictureError> {
    let format = match media_type {
        "image/png" => ImageFormat::Png,
        "image/jpeg" => ImageFormat::Jpeg,
        "image/gif" => ImageFormat::Gif,
        "image/webp" => ImageFormat::WebP,
        _ => return Err(PictureError::Unreadable),
    };
    let small = decoded(content, format)?.resize_to_fill(FACE, FACE, FilterType::Triangle);
    let mut kept = Cursor::new(Vec::new());
    if small.color().has_alpha() {
        DynamicImage::ImageRgba8(small.to_rgba8()).write_to(&mut kept, ImageFormat::Png)?;
        return Ok(Picture { media_type: "image/png", content: kept.into_inner() });
    }
    let flat = DynamicImage::ImageRgb8(small.to_rgb8());
    flat.write_with_encoder(JpegEncoder::new_with_quality(&mut kept, QUALITY))?;
    Ok(Picture { media_type: "image/jpeg", content: kept.into_inner() })
}

fn still(content: &[u8], format: ImageFormat) -> Result<Picture, PictureError> {
    let picture = decoded(content, format)?;
    let mut kept = Cursor::new(Vec::new());
    let photograph = format == ImageFormat::Jpeg || format == ImageFormat::WebP && !picture.color().has_alpha();
    let media_type = if photograph {
        // JPEG keeps eight bits of red, green and blue, or of grey.
        let flat = if picture.color().has_color() {
            DynamicImage::ImageRgb8(picture.to_rgb8())
        } else {
            DynamicImage::ImageLuma8(picture.to_luma8())
        };
        flat.write_with_encoder(JpegEncoder::new_with_quality(&mut kept, QUALITY))?;
        "image/jpeg"
    } else if format == ImageFormat::WebP {
        DynamicImage::ImageRgba8(picture.to_rgba8()).write_to(&mut kept, ImageFormat::WebP)?;
        "image/webp"
    } else {
        picture.write_to(&mut kept, ImageFormat::Png)?;
        "image/png"
    };
    Ok(Picture { media_type, content: kept.into_inner() })
}

fn moving(content: &[u8]) -> Result<Picture, PictureError> {
    let mut decoder = GifDecoder::new(Cursor::new(content))?;
    decoder.set_limits(limits())?;
    let (wide, high) = decoder.dimensions();
    let pixels = u64::from(wide) * u64::from(high);
    let mut frames: Vec<Frame> = Vec::new();
    for frame in decoder.into_frames() {
        let count = frames.len() as u64 + 1;
        if frames.len() >= FRAMES || pixels.saturating_mul(count) > MOVING {
            return Err(PictureError::Long);
        }
        frames.push(frame?);
    }
    if frames.is_empty() {
        return Err(PictureError::Unreadable);
    }
    let mut kept = Vec::new();
    {
        let mut encoder = GifEncoder::new_with_speed(&mut kept, 10);
        if frames.len() > 1 {
            encoder.set_repeat(Repeat::Infinite)?;
        }
        encoder.encode_frames(frames)?;
    }
    Ok(Picture { media_type: "image/gif", content: kept })
}

#[cfg(test)]
#[allow(clippy::unwrap_used, clippy::indexing_slicing, reason = "tests")]
mod tests {
    use super::*;
    use image::{Delay, Rgb, RgbImage, Rgba, RgbaImage};

    /// A picture of two colours, left and right.
    fn halves(wide: u32, high: u32) -> RgbImage {
        RgbImage::from_fn(wide, high, |x, _| if x < wide / 2 { Rgb([250, 10, 10]) } else { Rgb([10, 10, 250]) })
    }

    fn jpeg(picture: &RgbImage) -> Vec<u8> {
        let mut bytes = Cursor::new(Vec::new());
        picture.write_with_encoder(JpegEncoder::new_with_quality(&mut bytes, 95)).unwrap();
        bytes.into_inner()
    }

    /// Puts an Exif segment behind the head of a JPEG: one entry, which says how the camera was held (Exif 2.3, tag
    /// 0x0112), and a maker's name that nobody is to read.
    fn held(jpeg: &[u8], orientation: u8) -> Vec<u8> {
        let mut exif = b"Exif\0\0MM\0\x2a\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0".to_vec();
        exif.extend([orientation, 0, 0, 0, 0, 0, 0]);
        exif.extend(b"51.5007 N 0.1246 W");
        let length = u16::try_from(exif.len() + 2).unwrap().to_be_bytes();
        [&jpeg[..2], &[0xff, 0xe1], &length, &exif, &jpeg[2..]].concat()
    }

    fn holds(content: &[u8], text: &[u8]) -> bool {
        content.windows(text.len()).any(|window| window == text)
    }

    #[test]
    fn a_photograph_loses_what_its_camera_wrote_and_stands_upright() {
        let photo = held(&jpeg(&halves(40, 20)), 6);
        assert!(holds(&photo, b"51.5007 N") && holds(&photo, b"Exif"));
        let kept = written_anew("image/jpeg", &photo).unwrap();
        assert!(!holds(&kept.content, b"51.5007 N") && !holds(&kept.content, b"Exif"));
        let shown = image::load_from_memory(&kept.content).unwrap().to_rgb8();
        assert_eq!((kept.media_type, shown.dimensions()), ("image/jpeg", (20, 40)), "a quarter turn to the right");
        assert!(shown.get_pixel(10, 2)[0] > 200 && shown.get_pixel(10, 37)[2] > 200, "what was left is now above");
    }

    #[test]
    fn a_picture_keeps_its_pixels_and_nothing_beside_them() {
        let drawn =
            RgbaImage::from_fn(12, 9, |x, y| Rgba([x as u8 * 20, y as u8 * 20, 7, if x > 5 { 255 } else { 0 }]));
        let mut png = Cursor::new(Vec::new());
        drawn.write_to(&mut png, ImageFormat::Png).unwrap();
        let mut png = png.into_inner();
        // Behind its end a file may hold anything.
        png.extend(b"<script>alert(1)</script>");
        let kept = written_anew("image/png", &png).unwrap();
        assert!(!holds(&kept.content, b"script"));
        assert_eq!(image::load_from_memory(&kept.content).unwrap().to_rgba8(), drawn);
        let mut webp = Cursor::new(Vec::new());
        drawn.write_to(&mut webp, ImageFormat::WebP).unwrap();
        let kept = written_anew("image/webp", webp.get_ref()).unwrap();
        assert_eq!(
            (kept.media_type, image::load_from_memory(&kept.content).unwrap().to_rgba8()),
            ("image/webp", drawn)
        );
        let mut photo = Cursor::new(Vec::new());
        halves(64, 64).write_to(&mut photo, ImageFormat::WebP).unwrap();
        assert_eq!(written_anew("image/webp", photo.get_ref()).unwrap().media_type, "image/jpeg");
    }

    #[test]
    fn a_face_is_the_middle_of_its_picture_small_and_square() {
        let wide = jpeg(&RgbImage::from_fn(900, 300, |x, _| {
            if (300..600).contains(&x) { Rgb([20, 200, 20]) } else { Rgb([250, 10, 10]) }
        }));
        let kept = face("image/jpeg", &held(&wide, 1)).unwrap();
        let shown = image::load_from_memory(&kept.content).unwrap().to_rgb8();
        assert_eq!((kept.media_type, shown.dimensions()), ("image/jpeg", (FACE, FACE)));
        assert!(shown.get_pixel(96, 96)[1] > 150 && shown.get_pixel(8, 96)[1] > 150, "left and right are gone");
        assert!(!holds(&kept.content, b"Exif") && kept.content.len() < 20_000);
        let mut sign = Cursor::new(Vec::new());
        RgbaImage::from_pixel(40, 40, Rgba([1, 2, 3, 0])).write_to(&mut sign, ImageFormat::Png).unwrap();
        assert_eq!(face("image/png", sign.get_ref()).unwrap().media_type, "image/png", "what is see-through stays so");
        assert_eq!(face("application/pdf", b"%PDF-1.7").unwrap_err(), PictureError::Unreadable);
    }

    #[test]
    fn one_that_moves_goes_on_moving_within_bounds() {
        let gif = |wide: u32, count: u8| {
            let mut bytes = Vec::new();
            let mut encoder = GifEncoder::new_with_speed(&mut bytes, 30);
            let frame = |shade: u8| {
                let picture = RgbaImage::from_pixel(wide, wide, Rgba([shade, 0, 0, 255]));
                Frame::from_parts(picture, 0, 0, Delay::from_numer_denom_ms(100, 1))
            };
            encoder.encode_frames((0..count).map(frame)).unwrap();
            drop(encoder);
            bytes
        };
        let kept = written_anew("image/gif", &gif(8, 3)).unwrap();
        let frames = GifDecoder::new(Cursor::new(&kept.content)).unwrap().into_frames().collect_frames().unwrap();
        assert_eq!((kept.media_type, frames.len()), ("image/gif", 3));
        let still = written_anew("image/gif", &gif(8, 1)).unwrap();
        assert!(holds(&still.content, b"GIF89a"));
        assert_eq!(written_anew("image/gif", &gif(2_000, 11)).unwrap_err(), PictureError::Long);
    }

    #[test]
    fn one_that_would_take_too_much_is_refused_by_its_head() {
        // A PNG that says it is 100,000 pixels wide; its sum fits, so that nothing else refuses it.
        let mut png = Cursor::new(Vec::new());
        RgbImage::new(1, 1).write_to(&mut png, ImageFormat::Png).unwrap();
        let mut png = png.into_inner();
        png[16..20].copy_from_slice(&100_000_u32.to_be_bytes());
        let sum = crc(&png[12..29]);
        png[29..33].copy_from_slice(&sum.to_be_bytes());
        assert_eq!(written_anew("image/png", &png).unwrap_err(), PictureError::Large);
        let mut kept = jpeg(&halves(16, 16));
        // The height of a JPEG stands behind the mark of its frame.
        let frame = kept.windows(2).position(|pair| pair == [0xff, 0xc0]).unwrap();
        kept[frame + 5..frame + 7].copy_from_slice(&60_000_u16.to_be_bytes());
        assert_eq!(written_anew("image/jpeg", &kept).unwrap_err(), PictureError::Large);
    }

    /// CRC-32 as PNG has it (ISO 3309), written down apart from the package.
    fn crc(bytes: &[u8]) -> u32 {
        !bytes.iter().fold(u32::MAX, |sum, byte| {
            (0..8).fold(sum ^ u32::from(*byte), |sum, _| if sum & 1 == 1 { (sum >> 1) ^ 0xedb8_8320 } else { sum >> 1 })
        })
    }

    #[test]
    fn what_is_damaged_or_no_picture_is_refused_and_nothing_panics() {
        let whole = jpeg(&halves(32, 32));
        for cut in [0, 1, 3, 20, whole.len() / 2] {
            let _ = written_anew("image/jpeg", &whole[..cut]);
        }
        for media_type in ["image/png", "image/jpeg", "image/gif", "image/webp", "image/svg+xml"] {
            for content in
                [&b""[..], b"\x89PNG\r\n\x1a\n", b"GIF89a", b"RIFF\0\0\0\0WEBPVP8 ", b"<svg onload=alert(1)>"]
            {
                let refused = written_anew(media_type, content).unwrap_err();
                assert!(refused.to_string().starts_with("this picture"), "{media_type} {refused}");
            }
        }
    }
}
