"""Writes one line of words in a font by producers of PDF from other hands: reportlab, Cairo and WeasyPrint.

Usage: make_pdfs.py FOLDER FONTFILE FAMILY WEIGHT STYLE WORDS
"""
import sys

folder, path, family, weight, style, words = sys.argv[1:7]


def reportlab():
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont
    from reportlab.pdfgen import canvas

    pdfmetrics.registerFont(TTFont("wanted", path))
    page = canvas.Canvas(f"{folder}/reportlab.pdf")
    page.setFont("wanted", 24)
    page.drawString(72, 700, words)
    page.save()


def cairo():
    import cairo

    surface = cairo.PDFSurface(f"{folder}/cairo.pdf", 400, 300)
    context = cairo.Context(surface)
    slant = cairo.FONT_SLANT_ITALIC if style == "italic" else cairo.FONT_SLANT_NORMAL
    heavy = cairo.FONT_WEIGHT_BOLD if int(weight) >= 600 else cairo.FONT_WEIGHT_NORMAL
    context.select_font_face(family, slant, heavy)
    context.set_font_size(24)
    context.move_to(40, 150)
    context.show_text(words)
    surface.finish()


def weasyprint():
    from weasyprint import HTML

    HTML(
        string=f'<p style="font: {style} {weight} 24px \'{family}\'">{words}</p>'
    ).write_pdf(f"{folder}/weasyprint.pdf")


if not path.endswith(".otf"):
    reportlab()
cairo()
weasyprint()
